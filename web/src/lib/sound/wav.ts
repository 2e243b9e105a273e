const HEADER_BYTES = 44;

/** Mono floats to a 24-bit WAV file: faint marks on a race lie below what 16 bits keep. */
export function encodeWav(blocks: Float32Array[], rate: number): Blob {
	const samples = blocks.reduce((total, block) => total + block.length, 0);
	const view = new DataView(new ArrayBuffer(HEADER_BYTES + samples * 3));
	writeHeader(view, samples * 3, rate);
	let at = HEADER_BYTES;
	for (const block of blocks) {
		for (const sample of block) {
			const value = Math.round(Math.max(-1, Math.min(1, sample)) * 0x7fffff);
			view.setUint16(at, value & 0xffff, true);
			view.setInt8(at + 2, value >> 16);
			at += 3;
		}
	}
	return new Blob([view], { type: 'audio/wav' });
}

function writeHeader(view: DataView, bytes: number, rate: number): void {
	const text = (at: number, word: string) => {
		for (let i = 0; i < word.length; i++) view.setUint8(at + i, word.charCodeAt(i));
	};
	text(0, 'RIFF');
	view.setUint32(4, 36 + bytes, true);
	text(8, 'WAVEfmt ');
	view.setUint32(16, 16, true);
	view.setUint16(20, 1, true); // PCM
	view.setUint16(22, 1, true); // mono
	view.setUint32(24, rate, true);
	view.setUint32(28, rate * 3, true);
	view.setUint16(32, 3, true);
	view.setUint16(34, 24, true);
	text(36, 'data');
	view.setUint32(40, bytes, true);
}
