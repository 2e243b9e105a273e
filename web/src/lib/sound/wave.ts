import WaveSurfer from 'wavesurfer.js';
import Regions, { type Region } from 'wavesurfer.js/dist/plugins/regions.esm.js';
import Spectrogram from 'wavesurfer.js/dist/plugins/spectrogram.esm.js';
import Timeline from 'wavesurfer.js/dist/plugins/timeline.esm.js';
import type { Segment } from './marks';

const LOOP = 'loop';
const SHORTEST_S = 0.1;
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
const nonce = () => document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content;

export interface WaveOptions {
	host: HTMLElement;
	url: string;
	rate: number;
	sampleRate: number;
	/** Highest frequency of the picture, Hz. */
	top: number;
	at: number;
	/** Words for a state, printed on its stretch. */
	words: (segment: Segment) => string;
	ontime: (seconds: number) => void;
	onplaying: (playing: boolean) => void;
	onready: (seconds: number) => void;
	onfail: () => void;
	/** A stretch was dragged out on the waveform. */
	ondrawn: (start: number, end: number) => void;
}

/** The waveform with its picture of frequencies: the one place that knows the library behind them. */
export class Wave {
	readonly #surfer: WaveSurfer;
	readonly #regions: Regions;
	#loop: Region | undefined;
	looping = false;

	constructor(private readonly options: WaveOptions) {
		this.#regions = Regions.create();
		this.#surfer = WaveSurfer.create({
			container: options.host,
			url: options.url,
			height: 72,
			normalize: true,
			sampleRate: options.sampleRate, // decoded coarser, the upper half of the picture would be empty
			waveColor: css('--faded'),
			progressColor: css('--blued'),
			cursorColor: css('--oxide'),
			cursorWidth: 2,
			cspNonce: nonce(),
			plugins: [
				this.#regions,
				Timeline.create({ height: 22, style: { fontSize: '15px', color: css('--print') } }),
				Spectrogram.create({
					height: 128,
					labels: true,
					labelsColor: css('--print'),
					labelsHzColor: css('--print'),
					labelsBackground: css('--plate'),
					frequencyMax: options.top,
					fftSamples: 512,
					scale: 'linear',
					colorMap: steelMap(),
					useWebWorker: false
				})
			]
		});
		this.#surfer.on('ready', (seconds) => {
			this.#surfer.setPlaybackRate(options.rate, true);
			this.#surfer.setTime(Math.min(options.at, seconds));
			options.onready(seconds);
		});
		this.#surfer.on('error', () => options.onfail());
		this.#surfer.on('timeupdate', (seconds) => this.#tick(seconds));
		this.#surfer.on('play', () => options.onplaying(true));
		this.#surfer.on('pause', () => options.onplaying(false));
		this.#surfer.on('finish', () => options.onplaying(false));
		this.#regions.enableDragSelection({ color: 'transparent' });
		this.#regions.on('region-created', (region) => this.#drawn(region));
	}

	#tick(seconds: number) {
		this.options.ontime(seconds);
		if (this.looping && this.#loop && (seconds >= this.#loop.end || seconds < this.#loop.start))
			this.#surfer.setTime(this.#loop.start);
	}

	#drawn(region: Region) {
		if (region.id === LOOP || region.id.startsWith('s')) return;
		const { start, end } = region;
		region.remove();
		if (end - start < SHORTEST_S) return; // a click, or a drag before the sound has come
		this.options.ondrawn(start, end);
		this.choose(start, end);
	}

	/** Choose a stretch, to loop or to mark. */
	choose(start: number, end: number) {
		this.#loop?.remove();
		const color = `color-mix(in srgb, ${css('--ochre')} 35%, transparent)`;
		this.#loop = this.#regions.addRegion({ id: LOOP, start, end, color, drag: true, resize: true });
		this.#loop.on('update-end', () => this.#loop && this.options.ondrawn(this.#loop.start, this.#loop.end));
	}

	/** Print the marked stretches. */
	show(segments: Segment[]) {
		for (const region of this.#regions.getRegions()) if (region.id !== LOOP) region.remove();
		segments.forEach((segment, n) => {
			const region = this.#regions.addRegion({
				id: `s${n}`,
				start: segment.start_s,
				end: segment.end_s,
				color: `color-mix(in srgb, ${css(n % 2 ? '--groove' : '--steel')} 45%, transparent)`,
				content: label(this.options.words(segment)),
				drag: false,
				resize: false
			});
			// A marked stretch only shows; a drag that begins on it is a drag on the waveform below.
			if (region.element) region.element.style.pointerEvents = 'none';
		});
	}

	/** The waveform over its frequencies, as they stand on the screen, as one PNG. */
	picture(): string {
		const root = this.#surfer.getWrapper().getRootNode() as ShadowRoot;
		const drawn = [...root.querySelectorAll('canvas')].filter((c) => c.width && c.offsetParent);
		const boxes = drawn.map((canvas) => canvas.getBoundingClientRect());
		const [left, top] = [Math.min(...boxes.map((b) => b.left)), Math.min(...boxes.map((b) => b.top))];
		const sheet = document.createElement('canvas');
		sheet.width = (Math.max(...boxes.map((b) => b.right)) - left) * devicePixelRatio;
		sheet.height = (Math.max(...boxes.map((b) => b.bottom)) - top) * devicePixelRatio;
		const pen = sheet.getContext('2d');
		if (!pen) return '';
		pen.scale(devicePixelRatio, devicePixelRatio);
		pen.fillStyle = css('--plate');
		pen.fillRect(0, 0, sheet.width, sheet.height);
		drawn.forEach((canvas, n) => {
			const box = boxes[n] as DOMRect;
			pen.drawImage(canvas, box.left - left, box.top - top, box.width, box.height);
		});
		return sheet.toDataURL('image/png');
	}

	/** How loud, from 0 to 1. */
	loudness = (volume: number) => this.#surfer.setVolume(volume);
	toggle = () => void this.#surfer.playPause();
	play = () => void this.#surfer.play();
	slow = (rate: number) => this.#surfer.setPlaybackRate(rate, true);
	get time() {
		return this.#surfer.getCurrentTime();
	}
	get playing() {
		return this.#surfer.isPlaying();
	}
	destroy = () => this.#surfer.destroy();
}

function label(words: string): HTMLElement {
	const element = document.createElement('span');
	element.textContent = words;
	element.style.cssText = `font-size:15px;padding:0 4px;color:${css('--print')}`;
	return element;
}

/** From the plate's own shade to print: 256 steps of red, green, blue and opacity. */
function steelMap(): number[][] {
	const rgb = (name: string) =>
		(css(name).match(/[0-9a-f]{2}/gi) ?? []).map((part) => parseInt(part, 16) / 255);
	const [from, middle, to] = [rgb('--plate'), rgb('--ochre'), rgb('--print')];
	return Array.from({ length: 256 }, (_, n) => {
		const share = n / 255;
		const [a, b, t] = share < 0.5 ? [from, middle, share * 2] : [middle, to, share * 2 - 1];
		return [0, 1, 2].map((k) => (a[k] ?? 0) * (1 - t) + (b[k] ?? 0) * t).concat(1);
	});
}
