import { describe, expect, it } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { fromAxle, newAxle, newRow, toVehicle } from './draft';

describe('toVehicle', () => {
	it('gives every wheel its side, from left to right', () => {
		const vehicle = toVehicle('Trike', '', '47-406', [
			{ ...newAxle('cartridge_pair', true) },
			{ ...newAxle('cup_cone'), wheels: '1' }
		]);
		expect(vehicle.axles.map((axle) => axle.hubs.map((hub) => hub.side))).toEqual([
			['left', 'right'],
			['centre']
		]);
	});

	it('gives a dual axle two wheels on each side', () => {
		const [axle] = toVehicle('Lorry', '', '', [{ ...newAxle('taper_locknut'), wheels: '4' }]).axles;
		expect(axle?.hubs.map((hub) => hub.side)).toEqual(['left', 'left', 'right', 'right']);
	});

	it('keeps an empty field as not known', () => {
		const row = { ...newRow(0), elements: 13, pitch: 0.0625 };
		const bearing = toVehicle('Van', '', '', [{ ...newAxle('hub_unit'), rows: [row] }]).axles[0]?.hubs[0]
			?.bearings?.[0];
		expect(bearing?.elements).toBe(13);
		expect(bearing?.element_diameter_mm).toBeNull();
		expect(bearing?.pitch_diameter_mm).toBe(62.5);
	});

	it('carries what the vehicle has been through, and leaves out what nobody knows', () => {
		const known = toVehicle('Van', '', '', [newAxle('hub_unit')], {
			age: 12.5,
			distance: 240000000,
			duty: ['water']
		});
		expect([known.age_years, known.distance_km, known.duty]).toEqual([12.5, 240000, ['water']]);
		const unknown = toVehicle('Van', '', '', [newAxle('hub_unit')]);
		expect([unknown.age_years, unknown.distance_km, unknown.duty]).toEqual([null, null, []]);
	});

	it('keeps numbers, seals and limits of a stored axle that is corrected', () => {
		const hub = (id: string, side: 'left' | 'right'): Schemas['HubOut'] => ({
			id,
			side,
			design: 'taper_castle',
			rotating_ring: 'outer',
			play_min_mm: 0.05,
			play_max_mm: 0.2,
			play_source: 'manual',
			seal: { shaft_mm: 42 },
			bearings: [{ row: 'outer_bearing', designation: 'L44649/L44610' }],
			parts: [],
			questions: [],
			torques: [],
			choices: [],
			words: '',
			mate: '',
			window_min_mm: 0.05,
			window_max_mm: 0.2,
			window_source: 'manual',
			orders: [],
			estimates: []
		});
		const axle = { driven: false, steered: true, hubs: [hub('A1L', 'left'), hub('A1R', 'right')] };
		const draft = fromAxle(axle);
		expect(draft.most).toBe(0.0002);
		const [corrected] = toVehicle('Van', '', '', [draft]).axles;
		const left = corrected?.hubs[0];
		expect(left?.seal).toEqual({ shaft_mm: 42 });
		expect(left?.bearings?.[0]?.designation).toBe('L44649/L44610');
		expect(left?.play_max_mm).toBe(0.2);
		expect(left?.play_source).toBe('manual');
		const entered = toVehicle('Van', '', '', [{ ...draft, most: 0.000254 }]);
		expect(entered.axles[0]?.hubs[0]?.play_max_mm).toBe(0.254);
	});
});
