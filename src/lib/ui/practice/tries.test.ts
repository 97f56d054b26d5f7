import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { addTries, asFile, fromFile, noTries, replaceTries, triesOf } from './tries';

const stored = new Map<string, string>();
beforeEach(() => {
	stored.clear();
	vi.stubGlobal('localStorage', {
		getItem: (name: string) => stored.get(name) ?? null,
		setItem: (name: string, text: string) => void stored.set(name, text),
		removeItem: (name: string) => void stored.delete(name),
		key: (i: number) => [...stored.keys()][i] ?? null,
		get length() {
			return stored.size;
		}
	});
});
afterEach(() => vi.unstubAllGlobals());

const end = (over: number, light: 'daylight' | 'blue tank lamp' = 'daylight') => ({
	instrument: 'syringe' as const,
	parameter: 'calcium',
	light,
	over
});

it('the newest tries of each instrument, parameter and light count: a hand learns', () => {
	addTries('a', { endPoints: [end(9, 'blue tank lamp'), ...Array.from({ length: 30 }, () => end(5))] });
	const { endPoints } = addTries('a', { endPoints: Array.from({ length: 30 }, () => end(1)) });
	const byDay = endPoints.filter((t) => t.light === 'daylight');
	expect(byDay).toHaveLength(40);
	expect(byDay.filter((t) => t.over === 1)).toHaveLength(30);
	// Few tries under another lamp are not pushed out by many under this one.
	expect(endPoints.filter((t) => t.light !== 'daylight')).toEqual([end(9, 'blue tank lamp')]);
});

it('belong to a person, and to nobody else on the device', () => {
	addTries('a', { plungers: [{ off: 1 }] });
	expect(triesOf('b')).toEqual(noTries());
	replaceTries('a', undefined);
	expect(triesOf('a')).toEqual(noTries());
	expect(stored.size).toBe(0);
});

it('go into a file and come back as they were; another file is none', () => {
	const tries = addTries('a', {
		endPoints: [end(2)],
		plungers: [{ off: 0.5 }],
		looks: [{ parameter: 'nitrate', light: 'daylight', steps: 0.4, right: true }]
	});
	expect(fromFile(asFile(tries))).toEqual(tries);
	expect(fromFile('{"format":"tevrik.book/1"}')).toBeUndefined();
	expect(fromFile('{"format":"tevrik.pra')).toBeUndefined();
});

it('a browser without storage practises as long as its page', () => {
	vi.stubGlobal('localStorage', undefined);
	addTries('c', { plungers: [{ off: 1 }] });
	expect(addTries('c', { plungers: [{ off: 2 }] }).plungers).toHaveLength(2);
	replaceTries('c', undefined);
});
