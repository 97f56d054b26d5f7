/** The colour of a vial as a tone, for ears: low before the turn, an octave higher after it; a second voice where the drops fall. */
const LOW = 220;
const LOUD = 0.05;

export interface ColourSound {
	say: (turned: number, plumeTurned: number) => void;
	stop: () => void;
}

/** Begins to sound; undefined where the browser cannot. */
export function soundColour(): ColourSound | undefined {
	try {
		const audio = new AudioContext();
		const voice = (loudness: number) => {
			const tone = audio.createOscillator();
			const gain = audio.createGain();
			tone.type = 'triangle';
			gain.gain.value = loudness;
			tone.connect(gain).connect(audio.destination);
			tone.start();
			return { tone, gain };
		};
		const [all, drop] = [voice(LOUD), voice(0)];
		return {
			say(turned, plumeTurned) {
				const now = audio.currentTime;
				all.tone.frequency.setTargetAtTime(LOW * 2 ** turned, now, 0.05);
				drop.tone.frequency.setTargetAtTime(LOW * 1.5 * 2 ** plumeTurned, now, 0.05);
				drop.gain.gain.setTargetAtTime(LOUD * Math.max(0, plumeTurned - turned), now, 0.05);
			},
			stop: () => void audio.close()
		};
	} catch {
		return undefined;
	}
}
