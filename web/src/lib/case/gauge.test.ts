import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Gauge, lines, readingOf, SimulatedGauge, type GaugeReading } from './gauge';

describe('a line of the gauge', () => {
	it('is a reading in millimetres whatever its unit', () => {
		expect(readingOf('+0.21 mm')).toEqual({ mm: 0.21, shown: '+0.21 mm', held: false });
		expect(readingOf('-0.0100 in')?.mm).toBeCloseTo(-0.254);
		expect(readingOf('HOLD +0.30 mm')?.held).toBe(true);
	});
	it('is none when it is broken or says something else', () => {
		for (const line of ['', 'READY', '+0.2', '0.2mm', 'ERR 3', '+0..2 mm'])
			expect(readingOf(line)).toBeNull();
	});
	it('may come in pieces', () => {
		const [first, rest] = lines('', '+0.1');
		expect(first).toEqual([]);
		expect(lines(rest, '0 mm\r\n+0.2')).toEqual([['+0.10 mm'], '+0.2']);
	});
});

describe('the simulated gauge', () => {
	// the gauge's own clock: on a slow machine a real one would tick too late for the swing
	beforeEach(() => void vi.useFakeTimers());
	afterEach(() => void vi.useRealTimers());
	const wait = (ms: number) => vi.advanceTimersByTimeAsync(ms);

	it('goes to and fro by its play, zeroes, holds, changes unit, and says when it is lost', async () => {
		const read: GaugeReading[] = [];
		let lost = false;
		const port = new SimulatedGauge(
			() => 0.3,
			() => 0.5
		);
		const gauge = await Gauge.connect(
			port,
			(reading) => read.push(reading),
			() => (lost = true)
		);
		await wait(1900);
		const span = Math.max(...read.map((r) => r.mm)) - Math.min(...read.map((r) => r.mm));
		expect(span).toBeCloseTo(0.3, 2);
		await gauge.send('ZERO');
		await wait(200);
		expect(read.at(-1)?.mm).toBeCloseTo(0, 2);
		await gauge.send('HOLD');
		await gauge.send('UNIT');
		await wait(200);
		expect(read.at(-1)).toMatchObject({ held: true });
		expect(read.at(-1)?.shown).toContain('in');
		await gauge.close();
		expect(lost).toBe(false);
	});
});
