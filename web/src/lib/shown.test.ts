import { describe, expect, it, vi } from 'vitest';

const unit = (key: string, label: string, factor: number, offset = 0) => ({
	key,
	label,
	factor,
	offset,
	decimals: 2
});
const liked = vi.hoisted(() => ({ units: {} as Record<string, string> }));
vi.mock('./session.svelte', () => ({
	session: {
		get units() {
			return liked.units;
		},
		reference: {
			never_sure: 0.99,
			quantities: [
				{ key: 'length', label: 'Length', units: [unit('mm', 'mm', 0.001), unit('in', 'in', 0.0254)] },
				{ key: 'speed', label: 'Speed', units: [unit('kmh', 'km/h', 1 / 3.6), unit('mph', 'mph', 0.44704)] },
				{
					key: 'torque',
					label: 'Torque',
					units: [unit('nm', 'N·m', 1), unit('lbf_ft', 'lbf·ft', 1.3558179483314)]
				}
			]
		}
	}
}));
const { inUnits, percent } = await import('./shown.svelte');

describe('a text of the trade', () => {
	const text =
		'Tighten to 24 N·m, back off 30 to 40°; 0.05 mm a side, or 10 to 13 mm at the tyre. Hold 50, 80 and 100 km/h; again after 50 to 100 km.';

	it('stays as it is written where its units are liked', () => {
		liked.units = {};
		expect(inUnits(text)).toBe(text);
	});

	// NIST SP 811 B.8: 1 lbf·ft = 1.355818 N·m, 1 in = 25.4 mm, 1 mi = 1.609344 km.
	it('has its figures in the units that a person likes, and nothing else changed', () => {
		liked.units = { length: 'in', speed: 'mph', torque: 'lbf_ft' };
		expect(inUnits(text)).toBe(
			'Tighten to 18 lbf·ft, back off 30 to 40°; 0.002 in a side, or 0.39 to 0.51 in at the tyre. Hold 31, 50 and 62 mph; again after 31 to 62 mi.'
		);
		expect(inUnits('30 knots, 5 mmHg, A1L 2.')).toBe('30 knots, 5 mmHg, A1L 2.');
	});
});

it('says no probability for certain', () => {
	expect([0.999, 0.99, 0.5, 0.01, 0.001].map(percent)).toEqual([
		'over\u00a099%',
		'99%',
		'50%',
		'1%',
		'under\u00a01%'
	]);
});
