/** Small drawings of our own for where people go wrong. Each on 120 × 90; what is thick is the part, what is dashed is wrong. */
export interface Picture {
	/** What it shows, for who cannot see it. */
	words: string;
	thick?: string;
	thin?: string;
	filled?: string;
	dashed?: string;
	says?: { x: number; y: number; words: string }[];
}

const PI = Math.PI;
const at = (n: number, of: number, r: number): [number, number] => [
	60 + r * Math.sin((2 * PI * n) / of),
	45 - r * Math.cos((2 * PI * n) / of)
];

/** The nuts of a wheel with the turn of each; `order` is the core's, counted round from the top. */
function starPicture(order: number[]): Picture {
	const count = order.length;
	return {
		words: `The order for ${count} nuts: ${order.map((n) => n + 1).join(', ')}, counted round from the top`,
		thin: `M${order
			.map((n) =>
				at(n, count, 22)
					.map((x) => x.toFixed(1))
					.join(' ')
			)
			.join(' L')}`,
		thick: 'M60 3 A42 42 0 1 1 59.9 3',
		says: order.map((n, turn) => {
			const [x, y] = at(n, count, 32);
			return { x, y, words: String(turn + 1) };
		})
	};
}

const PICTURES: Record<string, Picture> = {
	push_outer: {
		words: 'Into a bore: push on the outer ring, never on the inner one or through the balls',
		thick: 'M14 44 H28 V74 H14 Z M92 44 H106 V74 H92 Z',
		thin: 'M46 44 H74 V74 H46 Z M37 52 a6 7 0 1 0 .1 0 M83 52 a6 7 0 1 0 .1 0',
		filled: 'M21 38 L15 26 H18 V12 H24 V26 H27 Z M99 38 L93 26 H96 V12 H102 V26 H105 Z',
		dashed: 'M60 12 V38 M54 32 L60 40 L66 32'
	},
	push_inner: {
		words:
			'Onto a shaft, or a shaft into it: push on or hold the inner ring, never the outer one or through the balls',
		thick: 'M46 44 H54 V74 H46 Z M66 44 H74 V74 H66 Z',
		thin: 'M14 44 H28 V74 H14 Z M92 44 H106 V74 H92 Z M37 52 a6 7 0 1 0 .1 0 M83 52 a6 7 0 1 0 .1 0 M54 6 V86 M66 6 V86',
		filled: 'M46 38 L40 26 H43 V12 H49 V26 H52 Z M74 38 L68 26 H71 V12 H77 V26 H80 Z',
		dashed: 'M21 12 V38 M15 32 L21 40 L27 32 M99 12 V38 M93 32 L99 40 L105 32'
	},
	plate_first: {
		words: 'On the shaft in this turn: plate, bearing, ring',
		thick: 'M30 18 H36 V72 H30 Z',
		thin: 'M4 40 H112 M4 50 H112 M46 26 H66 V64 H46 Z M74 32 H82 V58 H74 Z',
		says: [
			{ x: 33, y: 84, words: '1' },
			{ x: 56, y: 76, words: '2' },
			{ x: 78, y: 70, words: '3' }
		]
	},
	taper_wide_end: {
		words: 'A cup goes in with its wide end outwards; the small end of the rollers points inwards',
		thick: 'M20 12 L100 24 V34 L20 20 Z M20 78 L100 66 V56 L20 70 Z',
		thin: 'M24 24 L92 36 M24 66 L92 54',
		says: [
			{ x: 12, y: 46, words: 'out' },
			{ x: 110, y: 46, words: 'in' }
		]
	},
	ring_smooth: {
		words: 'The smooth face of the retaining ring to the seal, its other face hard against the bearing',
		thick: 'M54 20 H70 V70 H54 Z',
		thin: 'M4 40 H112 M4 50 H112 M20 24 H48 V66 H20 Z M88 8 V34 L80 40 M88 82 V56 L80 50',
		filled: 'M50 24 h4 v6 h-4 z M50 36 h4 v6 h-4 z M50 48 h4 v6 h-4 z M50 60 h4 v6 h-4 z',
		says: [{ x: 104, y: 16, words: 'seal' }]
	},
	seal_spring: {
		words: 'The spring side of a seal to what it holds in',
		thick: 'M28 14 H40 V76 H28 Z M40 62 L60 74 L60 78 H40 Z',
		filled: 'M62 66 a5 5 0 1 0 .1 0',
		says: [
			{ x: 92, y: 66, words: 'grease' },
			{ x: 14, y: 46, words: 'dirt' }
		]
	},
	magnet_sensor: {
		words: 'The magnetic side of the bearing to the sensor',
		thick: 'M30 22 H38 V68 H30 Z',
		thin: 'M38 22 H78 V68 H38 Z',
		filled: 'M8 40 h18 v10 h-18 z',
		says: [{ x: 22, y: 84, words: 'sensor' }]
	},
	pin_legs: {
		words:
			'Pin through nut and spindle, one leg over the end of the spindle, one cut short: both clear of the cap',
		thick: 'M6 34 H84 V56 H6 Z',
		thin: 'M38 22 H68 V68 H38 Z',
		filled: 'M50 14 h6 v62 h-6 z M50 14 h38 v26 h-5 v-21 h-33 z M50 71 h14 v5 h-14 z',
		dashed: 'M74 4 H102 Q116 45 102 86 H74'
	},
	flange_shape: {
		words: 'A flange that is not symmetric: hold the new one against the shadow of the old',
		thick: 'M60 12 L92 26 L88 66 L56 76 L24 60 L30 24 Z',
		dashed: 'M64 10 L96 30 L86 70 L52 74 L26 56 L34 20 Z',
		thin: 'M60 34 a11 11 0 1 0 .1 0'
	},
	hold_hub: {
		words: 'A bar between two studs that carry nuts put on backwards, never on their threads, holds the hub',
		thin: 'M60 8 A37 37 0 1 1 59.9 8 M60 37 a8 8 0 1 0 .1 0',
		thick: 'M36 30 h10 v10 h-10 z M72 54 h10 v10 h-10 z',
		filled: 'M10 22 L114 72 L112 78 L8 28 Z'
	},
	clamped_slot: {
		words: 'A clamped nut is tightened on to the next slot, never turned back to one',
		thick: 'M60 14 A31 31 0 1 1 59.9 14',
		thin: 'M56 10 h8 v12 h-8 z M86 41 h12 v8 h-12 z M56 68 h8 v12 h-8 z M22 41 h12 v8 h-12 z',
		filled: 'M74 20 A28 28 0 0 1 86 34 L90 30 L88 42 L78 36 L83 35 A24 24 0 0 0 72 24 Z',
		dashed: 'M46 20 A28 28 0 0 0 34 34'
	}
};

export const pictureOf = (key: string, star: number[]): Picture | undefined =>
	key === 'star' ? starPicture(star) : PICTURES[key];
export const pictureKeys = (): string[] => [...Object.keys(PICTURES), 'star'];
