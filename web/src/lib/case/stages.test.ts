import { describe, expect, it } from 'vitest';
import { screenOf, stages } from './stages';

describe('the screens of a case', () => {
	it('have names of their own, the walkround among them', () => {
		const paths = ['', ...stages.map((stage) => stage.path), 'bench', 'guide', 'why', 'test/spin'];
		const names = paths.map((path) => screenOf(`/cases/7/${path}`));
		expect(new Set(names).size).toBe(paths.length);
		expect([names[0], screenOf('/cases/7')]).toEqual(['Walkround', 'Walkround']);
	});
});
