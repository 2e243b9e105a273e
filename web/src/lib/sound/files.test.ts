import { describe, expect, it } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { placeByName } from './files';

const hubs = ['A1L', 'A1R', 'A2L', 'A2R'].map(
	(id) => ({ id, side: id.endsWith('L') ? 'left' : 'right' }) as Schemas['HubOut']
);
const at = (name: string) => placeByName(name, hubs, (hub) => Number(hub[1]));

describe('placeByName', () => {
	it.each([
		['A1R.wav', 'A1R'],
		['run 2 a2l take3.flac', 'A2L'],
		['front left.m4a', 'A1L'],
		['Rear-right_80.mp3', 'A2R'],
		['FL.wav', 'A1L'],
		['rr_spin.csv', 'A2R'],
		['cabin S-bends.ogg', 'cabin'],
		['recording 17.wav', ''],
		['left.wav', '']
	])('sorts %s to “%s”', (name, place) => expect(at(name)).toBe(place));
});
