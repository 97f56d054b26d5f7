/** What reaches a keeper who does not look: tones, a spoken line, a screen that stays awake, a knock on the table. */

/** A pentatonic scale from A3, Hz: any two of its tones are told apart and none clash. */
const TONES = [220, 261.6, 293.7, 329.6, 392, 440, 523.3, 587.3, 659.3, 784];
const LENGTH = 0.22;
let audio: AudioContext | undefined;

/** A test's own tone, so many times: once as a warning, twice when a wait is over. Silent where the browser cannot sound. */
export function sound(test: number, times: number): void {
	try {
		audio ??= new AudioContext();
		for (let i = 0; i < times; i++) {
			const from = audio.currentTime + i * LENGTH * 1.6;
			const tone = audio.createOscillator();
			const loudness = audio.createGain();
			tone.type = 'triangle';
			tone.frequency.value = TONES[test % TONES.length]!;
			loudness.gain.setValueAtTime(0.25, from);
			loudness.gain.exponentialRampToValueAtTime(0.001, from + LENGTH);
			tone.connect(loudness).connect(audio.destination);
			tone.start(from);
			tone.stop(from + LENGTH);
		}
	} catch {
		// Seen, then, not heard.
	}
}

/** Says a line aloud where the browser can. */
export function speak(words: string): void {
	if (!('speechSynthesis' in globalThis)) return;
	const line = new SpeechSynthesisUtterance(words);
	line.lang = document.documentElement.lang || 'en';
	speechSynthesis.speak(line);
}

/** Keeps the screen awake until it is given back; taken again when the page comes back into view. */
export function stayAwake(): () => void {
	let lock: WakeLockSentinel | undefined;
	const take = async () => {
		if (document.hidden || !('wakeLock' in navigator)) return;
		lock = await navigator.wakeLock.request('screen').catch(() => undefined);
	};
	const again = () => void take();
	document.addEventListener('visibilitychange', again);
	void take();
	return () => {
		document.removeEventListener('visibilitychange', again);
		void lock?.release();
	};
}

/** A knock shakes the device by this much and is over at once: m/s² against the mean of the last moments. */
const KNOCK = 2.2;
/** Two knocks no nearer and no further apart than this, ms: one bump is not a word. */
const APART = [120, 700] as const;

/** Two knocks on the table the device lies on. Calls back once for each pair. */
export function hearKnocks(onknock: () => void): () => void {
	let mean = 9.81;
	let last = -Infinity;
	const feel = ({ accelerationIncludingGravity: a, timeStamp }: DeviceMotionEvent) => {
		if (a?.x == null || a.y == null || a.z == null) return;
		const size = Math.hypot(a.x, a.y, a.z);
		const jolt = Math.abs(size - mean);
		mean += (size - mean) * 0.1;
		if (jolt < KNOCK) return;
		const since = timeStamp - last;
		if (since < APART[0]) return;
		last = since <= APART[1] ? -Infinity : timeStamp;
		if (since <= APART[1]) onknock();
	};
	addEventListener('devicemotion', feel);
	return () => removeEventListener('devicemotion', feel);
}

/** Asks for the motion sensor where that is needed; whether there is one to listen to. */
export async function mayHearKnocks(): Promise<boolean> {
	if (typeof DeviceMotionEvent === 'undefined') return false;
	const ask = (DeviceMotionEvent as unknown as { requestPermission?: () => Promise<string> })
		.requestPermission;
	return ask ? (await ask().catch(() => 'denied')) === 'granted' : true;
}
