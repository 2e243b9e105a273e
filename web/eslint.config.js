import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

export default ts.config(
	{
		ignores: [
			'build/',
			'.svelte-kit/',
			'src/lib/api/schema.d.ts',
			'src/locales/.wuchale/',
			'src/locales/data.js'
		]
	},
	js.configs.recommended,
	...ts.configs.strict,
	...svelte.configs.recommended,
	{ languageOptions: { globals: { ...globals.browser } } },
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } },
		rules: {
			// Addresses here are built from ids; the app is served from the root and has no base path.
			'svelte/no-navigation-without-resolve': 'off'
		}
	},
	{ files: ['static/*.js'], languageOptions: { globals: { ...globals.audioWorklet } } }
);
