import { describe, expect, it } from 'vitest';
import { encodeWav } from './wav';

describe('encodeWav', () => {
	it('writes 24-bit mono as the RIFF description lays it out', async () => {
		const view = new DataView(
			await encodeWav([new Float32Array([0, 1]), new Float32Array([-1])], 48000).arrayBuffer()
		);
		expect(view.byteLength).toBe(44 + 9);
		expect(view.getUint32(4, true)).toBe(36 + 9);
		expect(view.getUint16(34, true)).toBe(24);
		expect(view.getUint32(28, true)).toBe(144000);
		expect([44, 47, 50].map((at) => view.getUint16(at, true) | (view.getInt8(at + 2) << 16))).toEqual([
			0, 0x7fffff, -0x7fffff
		]);
	});

	it('clips what is beyond full scale instead of wrapping it round', async () => {
		const view = new DataView(await encodeWav([new Float32Array([3])], 8000).arrayBuffer());
		expect(view.getInt8(46)).toBe(0x7f);
	});
});
