import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { hearKnocks } from './signals';

let listener: ((event: unknown) => void) | undefined;
beforeEach(() => {
	vi.stubGlobal('addEventListener', (_name: string, heard: (event: unknown) => void) => (listener = heard));
	vi.stubGlobal('removeEventListener', () => (listener = undefined));
});
afterEach(() => vi.unstubAllGlobals());

const feel = (timeStamp: number, z: number) =>
	listener!({ timeStamp, accelerationIncludingGravity: { x: 0, y: 0, z } });
const knock = (at: number) => {
	feel(at, 14);
	feel(at + 16, 9.81);
};

it('hears two knocks, not one, not a third with the second, and no bump', () => {
	let heard = 0;
	const stop = hearKnocks(() => heard++);
	for (let at = 0; at < 1000; at += 16) feel(at, 9.81 + 0.3 * Math.sin(at));
	expect(heard).toBe(0);
	knock(2000);
	expect(heard).toBe(0);
	knock(2300);
	expect(heard).toBe(1);
	// A third right after begins a new pair, and alone is nothing.
	knock(2500);
	expect(heard).toBe(1);
	// Too far apart, and too near: one blow shakes for a moment.
	knock(5000);
	knock(6000);
	feel(9000, 14);
	feel(9050, 14);
	expect(heard).toBe(1);
	stop();
	expect(listener).toBeUndefined();
});

it('feels nothing where the device tells nothing', () => {
	hearKnocks(() => {
		throw new Error('nobody knocked');
	});
	listener!({ timeStamp: 1, accelerationIncludingGravity: null });
	listener!({ timeStamp: 2, accelerationIncludingGravity: { x: null, y: 1, z: 2 } });
});
