import { expect, it } from 'vitest';
import { normalBelow } from '../statistics';
import { changeBetween } from '../trend';
import { placeInBand } from '.';

const BAND = { lower: 7, upper: 9 };

it('knows the normal distribution', () => {
	expect(normalBelow(0)).toBeCloseTo(0.5, 7);
	expect(normalBelow(1.959964)).toBeCloseTo(0.975, 6);
	expect(normalBelow(-1)).toBeCloseTo(0.158655, 6);
});

it('says in, out or unsure by how sure the value is', () => {
	expect(placeInBand(8, 0.2, BAND).state).toBe('inside');
	expect(placeInBand(6.5, 0.2, BAND).state).toBe('below');
	expect(placeInBand(9.6, 0.2, BAND).state).toBe('above');
	expect(placeInBand(7.05, 0.2, BAND).state).toBe('edge');
	expect(placeInBand(7.5, 0.8, BAND).state).toBe('unknown');
	expect(placeInBand(7, 0.2, BAND).inside).toBeCloseTo(0.5, 3);
});

it('tells a change from noise, and forgives one kit what it always does', () => {
	const test = (value: number, methodId = 'a') => ({
		value,
		standardUncertainty: 0.2,
		repeatability: 0.08,
		methodId
	});
	expect(changeBetween(test(8.2), test(8)).real).toBe(false);
	expect(changeBetween(test(8.4), test(8)).real).toBe(true);
	expect(changeBetween(test(8.4), test(8, 'b')).real).toBe(false);
	// Two sigma of the difference: one time in twenty-two.
	expect(changeBetween(test(8), test(8 + 2 * Math.hypot(0.08, 0.08))).noiseAlone).toBeCloseTo(0.0455, 3);
});
