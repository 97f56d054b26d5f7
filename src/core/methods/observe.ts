import type { Outcome, Problem } from '../base';
import { observeShown } from './display';
import { observeDrops } from './drops';
import type { Observation } from './observation';
import type { Method } from './profile';
import type { DropsReading, RawReading, ShadesReading, ShownReading, SyringeReading } from './schema';
import { observeShades } from './shades';
import { observeSyringe } from './syringe';

/** Fields by which each kind of instrument is read; exactly one of them is given. */
export const READ_BY: Record<Method['reads'], string[]> = {
	syringe: ['left', 'used'],
	drops: ['drops'],
	shades: ['shade', 'between', 'below', 'above'],
	display: ['shown', 'below', 'above'],
	'scale-line': ['shown', 'below', 'above']
};

/**
 * A reading that belongs to another kind of instrument, as a problem.
 *
 * @example misfit(SHIPPED_METHODS[0], { drops: 12 }).message // → 'must give left or used: this method reads a syringe'
 */
export function misfit(method: Method, reading: RawReading): Problem | undefined {
	const fields = READ_BY[method.reads];
	if (fields.some((field) => field in reading)) return undefined;
	return {
		path: '/reading',
		message: `must give ${fields.join(' or ')}: this method reads ${KIND_NAMES[method.reads]}`
	};
}

export const KIND_NAMES: Record<Method['reads'], string> = {
	syringe: 'a syringe',
	drops: 'drops',
	shades: 'shades of colour',
	display: 'a meter',
	'scale-line': 'a scale'
};

/** What was seen, on the instrument's own axis. The reading must fit the method (`misfit`). */
export function observe(method: Method, reading: RawReading): Outcome<Observation> {
	switch (method.reads) {
		case 'syringe':
			return observeSyringe(method, reading as SyringeReading);
		case 'drops':
			return observeDrops(method, reading as DropsReading);
		case 'shades':
			return observeShades(method, reading as ShadesReading);
		case 'display':
		case 'scale-line':
			return observeShown(method, reading as ShownReading);
	}
}
