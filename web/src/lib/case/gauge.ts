/**
 * A digital dial gauge on a serial line. Plain lines of text, both ways: the gauge says `+0.21 mm` or `+0.0083 in` some
 * times a second; it takes `ZERO`, `HOLD`, `GO` and `UNIT`. The port has the shape of the browser's own serial ports, so
 * that the simulated gauge and a cable are one and the same to the screen.
 */
export interface GaugePort {
	readable: ReadableStream<Uint8Array> | null;
	writable: WritableStream<Uint8Array> | null;
	open(options: { baudRate: number }): Promise<void>;
	close(): Promise<void>;
}

export interface GaugeReading {
	mm: number;
	/** As the gauge shows it. */
	shown: string;
	held: boolean;
}

const LINE = /^(HOLD )?([+-]?\d+(?:\.\d+)?) (mm|in)$/;
const MM_PER_INCH = 25.4;
const BAUD = 9600;

/** One line of a gauge as a reading, or null for what is none: a broken line, a start-up greeting, an error. */
export function readingOf(line: string): GaugeReading | null {
	const found = LINE.exec(line.trim());
	if (!found) return null;
	const figure = Number(found[2]);
	return {
		mm: found[3] === 'in' ? figure * MM_PER_INCH : figure,
		shown: `${found[2]} ${found[3]}`,
		held: Boolean(found[1])
	};
}

/** Whole lines out of pieces of text as they come; the last, unfinished one is kept for the next piece. */
export function lines(rest: string, piece: string): [whole: string[], rest: string] {
	const parts = (rest + piece).split(/\r?\n/);
	return [parts.slice(0, -1), parts.at(-1) ?? ''];
}

/** A gauge that is being read. `onreading` gets every reading, `onlost` when the line breaks. */
export class Gauge {
	#reader: ReadableStreamDefaultReader<Uint8Array> | undefined;
	#open = true;

	private constructor(private readonly port: GaugePort) {}

	static async connect(
		port: GaugePort,
		onreading: (reading: GaugeReading) => void,
		onlost: () => void
	): Promise<Gauge> {
		await port.open({ baudRate: BAUD });
		const gauge = new Gauge(port);
		void gauge.#listen(onreading, onlost);
		return gauge;
	}

	async #listen(onreading: (reading: GaugeReading) => void, onlost: () => void) {
		const decoder = new TextDecoder();
		let rest = '';
		this.#reader = this.port.readable?.getReader();
		try {
			while (this.#reader) {
				const { value, done } = await this.#reader.read();
				if (done) break;
				const [whole, left] = lines(rest, decoder.decode(value, { stream: true }));
				rest = left;
				for (const line of whole) {
					const reading = readingOf(line);
					if (reading) onreading(reading);
				}
			}
		} catch {
			// a cable pulled out ends the stream with an error; said below
		}
		if (this.#open) onlost();
	}

	async send(command: 'ZERO' | 'HOLD' | 'GO' | 'UNIT') {
		const writer = this.port.writable?.getWriter();
		await writer?.write(new TextEncoder().encode(`${command}\n`));
		writer?.releaseLock();
	}

	async close() {
		this.#open = false;
		await this.#reader?.cancel().catch(() => undefined);
		this.#reader?.releaseLock();
		await this.port.close().catch(() => undefined);
	}
}

const TICK_MS = 120;

/** The stand-in: a gauge on a hub, whose play may change as its nut is turned, and whose pointer follows a hand that pushes and pulls. */
export class SimulatedGauge implements GaugePort {
	readable: ReadableStream<Uint8Array> | null = null;
	writable: WritableStream<Uint8Array> | null = null;
	#timer: ReturnType<typeof setInterval> | undefined;
	#inches = false;
	#zero = 0;
	#held: number | null = null;
	#ticks = 0;

	constructor(
		/** What the pointer travels on a stroke, mm. */
		private readonly play_mm: (stroke: number) => number,
		private readonly noise: () => number = Math.random
	) {}

	/** The pointer: pulled out for a second and a half, pushed in for as long, with a hair of shake. */
	#pointer(): number {
		const half = Math.floor((this.#ticks * TICK_MS) / 1500);
		return (half % 2 === 1 ? this.play_mm((half - 1) / 2) : 0) + (this.noise() - 0.5) * 0.008;
	}

	#line(): string {
		const mm = this.#held ?? this.#pointer() - this.#zero;
		const figure = this.#inches ? (mm / MM_PER_INCH).toFixed(4) : mm.toFixed(2);
		return `${this.#held === null ? '' : 'HOLD '}${mm < 0 ? '' : '+'}${figure} ${this.#inches ? 'in' : 'mm'}\n`;
	}

	#obey(command: string) {
		if (command === 'ZERO') this.#zero = this.#pointer();
		if (command === 'HOLD') this.#held = this.#pointer() - this.#zero;
		if (command === 'GO') this.#held = null;
		if (command === 'UNIT') this.#inches = !this.#inches;
	}

	async open() {
		const encoder = new TextEncoder();
		this.readable = new ReadableStream({
			start: (controller) => {
				this.#timer = setInterval(() => {
					this.#ticks += 1;
					controller.enqueue(encoder.encode(this.#line()));
				}, TICK_MS);
			},
			cancel: () => clearInterval(this.#timer)
		});
		this.writable = new WritableStream({
			write: (chunk) => this.#obey(new TextDecoder().decode(chunk).trim())
		});
	}

	async close() {
		clearInterval(this.#timer);
	}
}

/** Ask the browser for a gauge on a cable; null where it has no serial ports or none was chosen. */
export async function cableGauge(): Promise<GaugePort | null> {
	const serial = (navigator as { serial?: { requestPort(): Promise<GaugePort> } }).serial;
	return (await serial?.requestPort().catch(() => null)) ?? null;
}
export const hasSerial = () => 'serial' in navigator;
