/**
 * A stream of numbers in [0, 1) from a seed: the same seed, the same stream (mulberry32, public domain).
 *
 * @example uniform(1)() === uniform(1)() // → true
 */
export function uniform(seed: number): () => number {
	let state = seed >>> 0;
	return () => {
		state = (state + 0x6d2b79f5) >>> 0;
		let t = state;
		t = Math.imul(t ^ (t >>> 15), t | 1);
		t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}

/**
 * Standard normal numbers from a uniform stream (Box & Muller 1958).
 *
 * @example normal(uniform(1))() === normal(uniform(1))() // → true
 */
export function normal(random: () => number): () => number {
	return () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
