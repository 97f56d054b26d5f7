import { nth } from '../base';
import { addAt, addToCell, cell, el, solveRight, zeros } from '../statistics';
import { copyOf, type State } from './kalman';
import { crossOf, type Transition, type Water } from './water';

/** A state between two transitions: as predicted from the one before, and with what was then seen. */
export interface Moment {
	by: Transition;
	predicted: State;
	seen: State;
}

/** The way back (Rauch, Tung and Striebel 1965): the state at every moment, given all that was seen. */
export function smooth(water: Water, moments: Moment[]): State[] {
	const count = moments.length;
	const states = Array.from<State>({ length: count });
	if (!count) return [];
	let next = nth(moments, count - 1).seen;
	states[count - 1] = next;
	for (let k = count - 2; k >= 0; k--) {
		const { by, predicted } = nth(moments, k + 1);
		const state = copyOf(nth(moments, k).seen);
		stepBack(state, crossOf(state.cov, state.mean.length, water, by), predicted, next);
		states[k] = state;
		next = state;
	}
	return states;
}

/** `state` with what `next` knows beyond `predicted`, in place; `cross`: its covariance with what was predicted. */
function stepBack(state: State, cross: number[], predicted: State, next: State): void {
	const size = state.mean.length;
	const gain = solveRight(predicted.cov, cross, size);
	const off = next.mean.map((x, i) => x - el(predicted.mean, i));
	const more = next.cov.map((x, i) => x - el(predicted.cov, i));
	const half = zeros(size * size);
	for (let i = 0; i < size; i++)
		for (let j = 0; j < size; j++) {
			addAt(state.mean, i, cell(gain, size, i, j) * el(off, j));
			let sum = 0;
			for (let a = 0; a < size; a++) sum += cell(gain, size, i, a) * cell(more, size, a, j);
			half[i * size + j] = sum;
		}
	for (let i = 0; i < size; i++)
		for (let j = 0; j < size; j++) {
			let sum = 0;
			for (let b = 0; b < size; b++) sum += cell(half, size, i, b) * cell(gain, size, j, b);
			addToCell(state.cov, size, i, j, sum);
		}
}
