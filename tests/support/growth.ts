/** Runs are repeated until they take this long together, ms: shorter ones are mostly noise. */
const LONG_ENOUGH = 2;

/**
 * By how much each doubling of a length makes the work longer: two where time grows with the length, four where with its
 * square. Over three doublings, the quickest of several rounds of each. `made` is not measured.
 */
export function growth<T>(work: (made: T) => unknown, made: (factor: number) => T): number {
	const [short, long] = [made(1), made(8)];
	const took = (on: T, times: number) => {
		const from = performance.now();
		for (let i = 0; i < times; i++) work(on);
		return (performance.now() - from) / times;
	};
	let times = 1;
	while (took(short, times) * times < LONG_ENOUGH && times < 10_000) times *= 2;
	const quickest = (on: T) => Math.min(...Array.from({ length: 4 }, () => took(on, times)));
	return (quickest(long) / quickest(short)) ** (1 / 3);
}
