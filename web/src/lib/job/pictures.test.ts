import { describe, expect, it } from 'vitest';
import { pictureKeys, pictureOf } from './pictures';

const tables = import.meta.glob<string>('../../../../core/hematite/assembly/*.toml', {
	query: '?raw',
	import: 'default',
	eager: true
});

describe('drawings', () => {
	it('are there for all that the tables ask for, and for nothing else', () => {
		const asked = Object.values(tables).flatMap((text) =>
			[...text.matchAll(/^picture = "(\w+)"/gm)].map((found) => found[1])
		);
		expect(asked.length).toBeGreaterThan(10);
		expect([...new Set(asked)].sort()).toEqual(pictureKeys().sort());
		for (const key of pictureKeys()) expect(pictureOf(key, [0, 2, 1])?.words).toBeTruthy();
	});
	it('number the nuts in the order that they are drawn', () => {
		const drawn = pictureOf('star', [0, 2, 4, 1, 3]);
		expect(drawn?.says?.map((one) => one.words)).toEqual(['1', '2', '3', '4', '5']);
		expect(drawn?.says?.[0]?.x).toBeCloseTo(60);
		expect(drawn?.words).toContain('1, 3, 5, 2, 4');
	});
});
