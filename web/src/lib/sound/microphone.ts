import { encodeWav } from './wav';

/** What comes of it: how loud it is a few times a second, and every block of sound. */
export interface Hearing {
	onLevel: (level: { peak: number; seconds: number }) => void;
	onBlock: (block: Float32Array) => void;
}

const LEVEL_EVERY_S = 0.1;

/** Words for why there is no microphone, and what to do instead. */
export function microphoneWords(error: unknown): string {
	const name = error instanceof DOMException ? error.name : '';
	if (name === 'NotAllowedError')
		return 'The browser was not allowed to use the microphone. Allow it beside the address, or bring a file.';
	if (name === 'NotFoundError' || name === 'OverconstrainedError')
		return 'No microphone was found. Plug the pickup in and try again, or bring a file.';
	if (name === 'NotReadableError')
		return 'Another program holds the microphone. Close it and try again, or bring a file.';
	return 'This browser gives no microphone here (it needs https or localhost). Bring a file, or use the simulated pickup.';
}

export async function inputDevices(): Promise<MediaDeviceInfo[]> {
	const devices = (await navigator.mediaDevices?.enumerateDevices()) ?? [];
	return devices.filter((device) => device.kind === 'audioinput' && device.deviceId);
}

/** The raw microphone: everything that a phone does to make speech pleasant would hide a bearing, so it is off. */
export class Microphone {
	#blocks: Float32Array[] = [];
	#samples = 0;
	#began = performance.now();
	#awake: WakeLockSentinel | undefined;
	#peak = 0;
	#told = 0;

	private constructor(
		private readonly stream: MediaStream,
		private readonly context: AudioContext,
		private readonly hearing: Hearing
	) {
		const node = new AudioWorkletNode(context, 'hematite-recorder', { numberOfOutputs: 0 });
		context.createMediaStreamSource(stream).connect(node);
		node.port.onmessage = (event: MessageEvent<Float32Array>) => this.#take(event.data);
	}

	get rate(): number {
		return this.context.sampleRate;
	}

	static async open(deviceId: string, hearing: Hearing): Promise<Microphone> {
		if (!navigator.mediaDevices) throw new Error('no media devices');
		const stream = await navigator.mediaDevices.getUserMedia({
			audio: {
				deviceId: deviceId ? { exact: deviceId } : undefined,
				channelCount: 1,
				echoCancellation: false,
				noiseSuppression: false,
				autoGainControl: false
			}
		});
		const context = new AudioContext({ latencyHint: 'playback' });
		try {
			await context.audioWorklet.addModule('/recorder-worklet.js');
		} catch (error) {
			for (const track of stream.getTracks()) track.stop(); // never left open
			throw error;
		}
		const microphone = new Microphone(stream, context, hearing);
		// Keeps the screen awake where the browser can; where it cannot, `missing` tells what was lost.
		microphone.#awake = await navigator.wakeLock?.request('screen').catch(() => undefined);
		return microphone;
	}

	#take(block: Float32Array) {
		if (!this.#samples) this.#began = performance.now();
		this.#blocks.push(block);
		this.#samples += block.length;
		this.hearing.onBlock(block);
		for (const sample of block) this.#peak = Math.max(this.#peak, Math.abs(sample));
		const seconds = this.#samples / this.context.sampleRate;
		if (seconds - this.#told < LEVEL_EVERY_S) return;
		this.hearing.onLevel({ peak: this.#peak, seconds });
		this.#told = seconds;
		this.#peak = 0;
	}

	/** Seconds that the clock ran on while no sound came: a hidden tab or a locked screen may stop a recording. */
	get missing(): number {
		return Math.max(0, (performance.now() - this.#began) / 1000 - this.#samples / this.context.sampleRate);
	}

	/** What was heard up to now, as a WAV file; recording goes on. */
	soFar(): Blob {
		return encodeWav(this.#blocks, this.context.sampleRate);
	}

	/** Let go of the microphone and return what it heard as a WAV file. */
	async stop(): Promise<Blob> {
		for (const track of this.stream.getTracks()) track.stop();
		const rate = this.context.sampleRate;
		await this.#awake?.release().catch(() => undefined);
		await this.context.close();
		return encodeWav(this.#blocks, rate);
	}
}
