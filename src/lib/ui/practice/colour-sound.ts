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

/** A patch is a semitone and a half: as fine for an ear as a patch is for an eye. */
const SEMITONES = 1.5;
/** Seconds from one tone to the next, and how long each lasts. */
const APART = 0.7;
const LASTS = 0.5;

/** Places on a card, in patches, as tones one after the other: the deeper the colour, the lower the tone. Silent where the browser cannot. */
export function soundPlaces(places: number[]): void {
	try {
		const audio = new AudioContext();
		for (const [i, place] of places.entries()) {
			const tone = audio.createOscillator();
			const gain = audio.createGain();
			tone.type = 'triangle';
			tone.frequency.value = 660 * 2 ** ((-SEMITONES * place) / 12);
			gain.gain.value = 0.08;
			tone.connect(gain).connect(audio.destination);
			tone.start(audio.currentTime + i * APART);
			tone.stop(audio.currentTime + i * APART + LASTS);
			if (i === places.length - 1) tone.onended = () => void audio.close();
		}
	} catch {
		// Seen, then, not heard.
	}
}
