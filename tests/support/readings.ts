import { type Method, type GivenReading, type SyringeMethod } from '../../src/core/instruments';
import { read, type Measured, type ReadingRequest } from '../../src/core/methods';

/** Methods and readings, for the tests of what instruments say. */

export const SYRINGE: SyringeMethod = {
	format: 'tevrik.method/1',
	id: 'alk',
	name: 'Alkalinity',
	parameter: 'alkalinity',
	unit: 'dKH',
	reads: 'syringe',
	syringe: { fillMl: 1, graduationMl: 0.01, readAs: 'left' },
	scale: { kind: 'linear', perMl: 16.8, atZero: 0 },
	samples: [
		{ id: 'full', ml: 6, times: 1 },
		{ id: 'half', ml: 3, times: 2 }
	],
	uncertainty: { sampleRelative: 0.015, titrantRelative: 0.01, dropMl: 0.012 }
};
export const TABLE: SyringeMethod = {
	...SYRINGE,
	scale: {
		kind: 'table',
		by: 'left',
		points: [
			[0.9, 1.5],
			[0.5, 8],
			[0.1, 16]
		]
	}
};

export const run = (method: Method, reading: GivenReading, more: Partial<ReadingRequest> = {}): Measured => {
	const result = read({ method, reading, ...more });
	if (!result.ok) throw new Error(JSON.stringify(result.problems));
	return result.value;
};
/** Where a reading's problems are. */
export const paths = (request: ReadingRequest): string[] => {
	const result = read(request);
	return result.ok ? [] : result.problems.map((p) => p.path);
};
