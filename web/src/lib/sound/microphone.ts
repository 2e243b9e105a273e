import { encodeWav } from './wav';

export interface Level {
	peak: number;
	seconds: number;
}

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

	private constructor(
		private readonly stream: MediaStream,
		private readonly context: AudioContext,
		onLevel: (level: Level) => void
	) {
		const node = new AudioWorkletNode(context, 'hematite-recorder', { numberOfOutputs: 0 });
		context.createMediaStreamSource(stream).connect(node);
		node.port.onmessage = (event: MessageEvent<Float32Array>) => this.#take(event.data, onLevel);
	}

	static async open(deviceId: string, onLevel: (level: Level) => void): Promise<Microphone> {
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
		const context = new AudioContext();
		await context.audioWorklet.addModule('/recorder-worklet.js');
		const microphone = new Microphone(stream, context, onLevel);
		// Keeps the screen awake where the browser can; where it cannot, `missing` tells what was lost.
		microphone.#awake = await navigator.wakeLock?.request('screen').catch(() => undefined);
		return microphone;
	}

	#take(block: Float32Array, onLevel: (level: Level) => void) {
		if (!this.#samples) this.#began = performance.now();
		this.#blocks.push(block);
		this.#samples += block.length;
		let peak = 0;
		for (const sample of block) peak = Math.max(peak, Math.abs(sample));
		onLevel({ peak, seconds: this.#samples / this.context.sampleRate });
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
