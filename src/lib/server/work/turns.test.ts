import { expect, it } from 'vitest';
import { Crowded, GivenUp, fairTurns, type Turn } from './turns';

/** Tasks that end when told to, in the order in which they were begun. */
function bench(share: Partial<Parameters<typeof fairTurns>[0]> = {}) {
	const inTurn = fairTurns({ atOnce: 1, each: 1, waitingEach: 100, waiting: 1000, ...share });
	const begun: string[] = [];
	const ends: (() => void)[] = [];
	const ask = (name: string, turn: Turn) => {
		const asked = inTurn(turn, async () => {
			begun.push(name);
			await new Promise<void>((end) => ends.push(end));
			return name;
		});
		const outcome = asked.catch((failure: Error) => failure);
		return outcome;
	};
	/** Lets what follows from what was asked happen. */
	const settle = async () => {
		for (let i = 0; i < 10; i++) await Promise.resolve();
	};
	/** Ends the oldest task that runs. */
	const end = async () => {
		await settle();
		ends.shift()!();
		await settle();
	};
	return { begun, ask, end, settle };
}

it('whoever asks for one thing is served after one of another’s hundred', async () => {
	const { begun, ask, end } = bench();
	for (let i = 0; i < 100; i++) void ask(`many ${i}`, { who: 'many' });
	void ask('one', { who: 'one' });
	void ask('other', { who: 'other' });
	for (let i = 0; i < 4; i++) await end();
	expect(begun).toEqual(['many 0', 'many 1', 'one', 'other', 'many 2']);
});

it('runs no more at once than there are threads, and no more for one person than their share', async () => {
	const { begun, ask, end, settle } = bench({ atOnce: 3, each: 2 });
	for (let i = 0; i < 5; i++) void ask(`a${i}`, { who: 'a' });
	await settle();
	expect(begun).toEqual(['a0', 'a1']);
	for (let i = 0; i < 3; i++) void ask(`b${i}`, { who: 'b' });
	await settle();
	expect(begun).toEqual(['a0', 'a1', 'b0']);
	await end();
	expect(begun).toEqual(['a0', 'a1', 'b0', 'a2']);
});

it('refuses who has too much waiting, and everybody where all have', async () => {
	const { ask } = bench({ waitingEach: 2, waiting: 3 });
	void ask('runs', { who: 'a' });
	void ask('waits', { who: 'a' });
	void ask('waits', { who: 'a' });
	expect(await ask('too many', { who: 'a' })).toBeInstanceOf(Crowded);
	void ask('waits', { who: 'b' });
	expect(await ask('house full', { who: 'c' })).toBeInstanceOf(Crowded);
});

it('a newer request for a page takes the place of what the older waits for, and of nothing else', async () => {
	const { begun, ask, end } = bench();
	const [older, newer] = [{}, {}];
	void ask('running', { who: 'a', page: 'rack', request: older });
	const replaced = ask('older', { who: 'a', page: 'rack', request: older });
	void ask('other page', { who: 'a', page: 'trends', request: {} });
	void ask('other person', { who: 'b', page: 'rack', request: {} });
	void ask('newer 1', { who: 'a', page: 'rack', request: newer });
	void ask('newer 2', { who: 'a', page: 'rack', request: newer });
	expect(await replaced).toBeInstanceOf(GivenUp);
	for (let i = 0; i < 5; i++) await end();
	expect(begun).toEqual(['running', 'other page', 'other person', 'newer 1', 'newer 2']);
});

it('what its sender has left is never begun; what runs already ends', async () => {
	const { begun, ask, end } = bench();
	const gone = new AbortController();
	const running = ask('running', { who: 'a', signal: gone.signal });
	const waiting = ask('waiting', { who: 'a', signal: gone.signal });
	void ask('other', { who: 'b' });
	gone.abort();
	expect(await waiting).toBeInstanceOf(GivenUp);
	expect(await ask('late', { who: 'a', signal: gone.signal })).toBeInstanceOf(GivenUp);
	await end();
	expect(await running).toBe('running');
	expect(begun).toEqual(['running', 'other']);
});
