import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';
import { wuchale } from 'wuchale/vite';

export default defineConfig({
	plugins: [wuchale(), tailwindcss(), sveltekit()],
	server: { proxy: { '/api': 'http://localhost:8000' } },
	test: { include: ['src/**/*.test.ts'], testTimeout: 30_000 } // a slow machine is no failure
});
