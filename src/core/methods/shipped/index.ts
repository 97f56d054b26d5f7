import { needsChart } from '../own-chart';
import type { Method } from '../../instruments';
import { COMPARATORS } from './comparators';
import { INSTRUMENTS } from './instruments';
import { KNOWN_VALUES } from './known-values';
import { TITRATIONS } from './titrations';

/** Instrument, steps, cautions and usual volumes; the scale is an example of none in particular. */
const template = (method: Method): Method =>
	needsChart(method.reads) ? { ...method, chart: 'template' } : method;

/** Methods that come with Tevrik: generic, no maker's; factors follow from titrant strength and sample volume. */
export const SHIPPED_METHODS: Method[] = [
	...[...TITRATIONS, ...COMPARATORS, ...INSTRUMENTS].map(template),
	...KNOWN_VALUES
];

/** Values read elsewhere: no instrument of the keeper's, and no chart. */
export const isKnownValue = (method: Pick<Method, 'id'>): boolean => method.id.startsWith('known-');
