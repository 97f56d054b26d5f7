import type { Instrument } from '../instrument';
import { shownOn } from '../shown';
import type { ScaleLineMethod, ScaleLineReading } from './schema';

/** A refractometer, a hydrometer, a thermometer: a line of its scale. */
export const scaleLine: Instrument<ScaleLineMethod, ScaleLineReading> = shownOn('scale-line', 'a scale');
