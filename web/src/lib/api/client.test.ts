import { describe, expect, it } from 'vitest';
import { NoNetwork, notDone, Refused } from './client';

describe('what is said where something was not done', () => {
	it('claims nothing where no answer came: it may have been done', () => {
		expect(notDone(new NoNetwork(), 'taken in')).toContain('nobody knows whether it was taken in');
	});
	it('says what the server said, and that nothing was done', () => {
		expect(notDone(new Refused(422, 'x', 'This is no bundle.'), 'taken in')).toBe(
			'This is no bundle. Nothing was taken in.'
		);
	});
});
