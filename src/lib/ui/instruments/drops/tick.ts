let audio: AudioContext | undefined;

/** Hertz and seconds: short and low enough not to wake the house. */
const TONE = 520;
const LENGTH = 0.03;

/** A soft tick, where the browser can sound. */
export function tick(): void {
	try {
		audio ??= new AudioContext();
		const tone = audio.createOscillator();
		const loudness = audio.createGain();
		tone.frequency.value = TONE;
		loudness.gain.setValueAtTime(0.08, audio.currentTime);
		loudness.gain.exponentialRampToValueAtTime(0.0001, audio.currentTime + LENGTH);
		tone.connect(loudness).connect(audio.destination);
		tone.start();
		tone.stop(audio.currentTime + LENGTH);
	} catch {
		// No sound here: the count is seen.
	}
}
