import { describe, expect, it } from 'vitest';
import { days, money } from './money';

describe('money and days', () => {
	it('rounds to whole money', () => expect(money(21210.6, '€')).toBe('€ 21,211'));
	it('says hours for less than half a day', () => {
		expect(days(0.025, 8)).toBe('0.2 h');
		expect(days(0.25, 8)).toBe('2.0 h');
		expect(days(1.16, 8)).toBe('1.2 days');
	});
});
