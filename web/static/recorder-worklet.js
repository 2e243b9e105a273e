/* Hands every block of the microphone to the page as it comes; runs on the audio thread, so it does nothing else. */
class Recorder extends AudioWorkletProcessor {
	process(inputs) {
		const channel = inputs[0]?.[0];
		if (channel) this.port.postMessage(channel.slice(0));
		return true;
	}
}

registerProcessor('hematite-recorder', Recorder);
