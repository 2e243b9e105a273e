/** Drawings of what a part can look like: a shape for the part, and the marks on it. Our own, on a field of 96 by 64. */

export interface Glyph {
	/** The part itself, in thin line. */
	shape: string;
	/** Marks drawn as strokes, as solid spots, and a hatched area for colour or grease. */
	strokes?: string;
	spots?: [x: number, y: number, r: number][];
	hatched?: string;
}

const ARCH = 'M2 58A46 46 0 0 1 94 58L76 58A28 28 0 0 0 20 58Z';
const ROLLERS =
	'M8 12H88M8 52H88M18 16h12a4 4 0 0 1 4 4v24a4 4 0 0 1-4 4H18a4 4 0 0 1-4-4V20a4 4 0 0 1 4-4ZM42 16h12a4 4 0 0 1 4 4v24a4 4 0 0 1-4 4H42a4 4 0 0 1-4-4V20a4 4 0 0 1 4-4ZM66 16h12a4 4 0 0 1 4 4v24a4 4 0 0 1-4 4H66a4 4 0 0 1-4-4V20a4 4 0 0 1 4-4Z';
const SHAFT = 'M4 22H30V16H62V22H92V42H62V48H30V42H4Z';
const RING = 'M48 6a26 26 0 1 0 .01 0ZM48 16a16 16 0 1 0 .01 0Z';
const CAP = 'M14 52H82M20 52V32A28 22 0 0 1 76 32V52';
const NUT = 'M48 6L71 19V45L48 58L25 45V19ZM48 21a11 11 0 1 0 .01 0Z';
const TEETH =
	'M48 12a20 20 0 1 0 .01 0ZM48 2v7M48 55v7M18 32h7M71 32h7M27 11l5 5M64 48l5 5M69 11l-5 5M32 48l-5 5';
const BORE = 'M10 6H86V22H10ZM10 42H86V58H10Z';
const HAND = 'M69 36A22 22 0 1 1 62 16M62 5V17H50';
const BLOB = 'M6 30C10 14 26 8 46 10S88 14 90 30 76 54 50 54 4 50 6 30Z';
const drops = (...at: [number, number][]) =>
	at.map(([x, y]) => `M${x} ${y}c-5 7-5 11 0 11s5-4 0-11Z`).join('');

/** The drawing of a find at a kind of part: its own where the part looks different, else the usual one. */
export const glyphOf = (find: string, kind: string): Glyph | undefined =>
	glyphs[`${find} ${kind}`] ?? glyphs[find];

export const glyphs: Record<string, Glyph> = {
	clean: { shape: ROLLERS, strokes: 'M22 22v20M46 22v20M70 22v20' },
	smooth: { shape: ARCH, strokes: 'M11 56A37 37 0 0 1 85 56' },
	turns_smooth: { shape: HAND },
	turns_gritty: {
		shape: HAND,
		spots: [
			[40, 26, 2],
			[54, 30, 2],
			[46, 40, 2],
			[38, 36, 1.5],
			[56, 40, 1.5]
		]
	},
	turns_clicks: { shape: HAND, strokes: 'M78 20l10-6M80 30h10M78 40l9 5' },
	dry: { shape: ROLLERS, strokes: 'M8 30l7-5 6 9 7-8 6 7 8-9 6 8 8-7 6 8 8-9 6 8 6-5' },
	milky: { shape: BLOB, strokes: drops([26, 20], [46, 28], [66, 18], [58, 36]) },
	rust: {
		shape: BLOB,
		hatched: BLOB,
		spots: [
			[30, 26, 3],
			[48, 36, 4],
			[64, 24, 3]
		]
	},
	'rust race': {
		shape: ARCH,
		hatched: 'M4 50A46 46 0 0 1 44 12L46 30A28 28 0 0 0 21 52Z',
		spots: [
			[60, 20, 3],
			[72, 30, 4],
			[82, 46, 3]
		]
	},
	'cracked shaft': { shape: SHAFT, strokes: 'M44 14l6 10-8 8 8 8-6 10' },
	'cracked seat': { shape: BORE, strokes: 'M40 4l5 6-6 6 6 8' },
	glitter: {
		shape: BLOB,
		strokes: 'M28 18v10M23 23h10M52 24v12M46 30h12M70 22v8M66 26h8M38 38v8M34 42h8M64 40v8M60 44h8'
	},
	burnt: { shape: BLOB, hatched: BLOB, strokes: 'M36 8c-5-4 4-4 0-8M50 8c-5-4 4-4 0-8M64 9c-5-4 4-4 0-8' },
	blue: { shape: ARCH, hatched: 'M30 20A46 46 0 0 1 66 16L60 32A28 28 0 0 0 38 32Z' },
	pits: {
		shape: ARCH,
		spots: [
			[38, 22, 4],
			[48, 20, 3],
			[44, 27, 2.5],
			[56, 25, 2]
		]
	},
	dents: { shape: ARCH, strokes: 'M12 44L26 50M22 26L34 36M40 14L44 30M58 14L54 30M74 26L62 36M84 44L70 50' },
	hollows: {
		shape: ARCH,
		hatched:
			'M14 42a7 4 60 1 0 1 0ZM26 24a7 4 40 1 0 1 0ZM46 17a7 4 0 1 0 1 0ZM66 24a7 4 -40 1 0 1 0ZM80 42a7 4 -60 1 0 1 0Z'
	},
	dirt_dents: {
		shape: ARCH,
		spots: [
			[16, 44, 1.6],
			[24, 32, 1.4],
			[32, 26, 1.8],
			[42, 19, 1.4],
			[50, 25, 1.8],
			[58, 18, 1.4],
			[66, 28, 1.6],
			[76, 36, 1.4],
			[82, 48, 1.8],
			[20, 52, 1.4]
		]
	},
	scratches: {
		shape: ARCH,
		strokes: 'M7 56A41 41 0 0 1 60 19M12 56A36 36 0 0 1 70 30M16 57A32 32 0 0 1 78 48'
	},
	smeared: { shape: ARCH, hatched: 'M26 30C34 18 50 14 62 18S70 30 58 27 34 38 26 30Z' },
	washboard: {
		shape: ARCH,
		strokes:
			'M10 40L26 48M13 32L30 42M19 25L34 37M26 19L38 33M34 15L42 31M42 13L46 30M50 12L50 30M58 13L54 30M66 16L58 32M73 21L62 34M79 27L66 37'
	},
	cage: { shape: ROLLERS, strokes: 'M28 4l6 16-8 4 6 14M62 44l6 6-6 4 6 8' },
	cracked: { shape: ARCH, strokes: 'M44 10l5 7-5 5 6 5-4 7' },
	leaks: { shape: RING, strokes: drops([76, 34], [84, 46], [68, 48]) },
	turns_in_seat: { shape: BORE, strokes: 'M16 27H80V37H16ZM40 22v5M56 37v5M20 32H70M62 28l8 4-8 4' },
	seat_good: { shape: BORE, strokes: 'M20 22V42M76 22V42' },
	coating: { shape: BORE, hatched: 'M24 22C34 14 46 18 56 14S72 18 74 22Z' },
	shaft_good: { shape: SHAFT },
	shaft_blue: { shape: SHAFT, hatched: 'M34 16H58V48H34Z' },
	shaft_scored: { shape: SHAFT, strokes: 'M36 16V48M41 16V48M46 16V48M52 16V48' },
	shaft_groove: { shape: 'M4 22H30V16H46V20H52V16H62V22H92V42H62V48H52V44H46V48H30V42H4Z' },
	burrs: { shape: SHAFT, strokes: 'M66 22l3-6 3 6 4-7 3 7 3-5 2 5' },
	seal_good: { shape: RING },
	seal_torn: { shape: RING, strokes: 'M64 12l-6 8 8 2-7 7' },
	past_seal: {
		shape: RING,
		strokes: drops([72, 30], [80, 42], [64, 46]),
		hatched: 'M60 50a18 8 0 1 0 1 0Z'
	},
	cap_good: { shape: CAP },
	cap_leaks: {
		shape: 'M14 52H82M20 52V32A28 22 0 0 1 40 12l6 8 8-8A28 22 0 0 1 76 32V52',
		strokes: drops([84, 44])
	},
	button_flush: { shape: CAP, strokes: 'M40 12H56M40 6H56M48 6V2' },
	fast_good: { shape: NUT },
	fast_loose: { shape: NUT, strokes: 'M80 14a34 34 0 0 1 0 36M86 44l-6 6-6-6' },
	fast_missing: {
		shape: 'M48 21a11 11 0 1 0 .01 0Z',
		strokes: 'M48 6L54 9M71 19V26M71 38V45L65 49M48 58L42 55M25 45V38M25 26V19L31 15'
	},
	ring_good: { shape: TEETH },
	ring_cracked: { shape: TEETH, strokes: 'M60 14l-3 6 6 3-4 6M30 46l6-2 2 6' },
	ring_dust: {
		shape: TEETH,
		strokes: 'M44 4l-4-4M54 4l4-4M82 28l6-3M82 36l6 3M14 28l-6-3M14 36l-6 3M40 60l-4 4M56 60l4 4'
	},
	around_good: { shape: 'M24 34l16 16 34-38' },
	studs: { shape: 'M10 26H42V38H10ZM42 28L84 20 88 28 42 36', strokes: 'M52 26l2 8M60 24l2 8M68 23l2 8' },
	wheel_seats: { shape: 'M48 8a24 24 0 1 0 .01 0Z', strokes: 'M40 24l16 16M56 24L40 40' },
	lining: { shape: 'M12 14H84V26H12ZM12 32H84V38H12Z', strokes: 'M12 50H84' },
	hose: {
		shape: 'M6 40C24 10 40 60 60 30S86 24 92 20M6 48C24 18 42 68 62 38S86 32 92 28',
		strokes: 'M44 40l6 6M48 36l6 6'
	},
	boots: {
		shape:
			'M10 18L22 12V52L10 46ZM22 12L34 20V44L22 52M34 20L46 14V50L34 44M46 14L58 20V44L46 50M58 20L88 26V38L58 44',
		strokes: 'M38 26l6 6-6 6'
	},
	cylinder: { shape: 'M14 16H66V44H14ZM66 24H88V36H66', strokes: drops([60, 46], [70, 50]) },
	tyre_inside: { shape: 'M16 8H80V56H16Z', hatched: 'M16 8H32V56H16Z', strokes: 'M44 8V56M60 8V56M72 8V56' }
};
