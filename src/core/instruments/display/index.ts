import type { Instrument } from '../instrument';
import { shownOn } from '../shown';
import type { DisplayMethod, DisplayReading } from './schema';

/** A meter: digits of a display. */
export const display: Instrument<DisplayMethod, DisplayReading> = shownOn('display', 'a meter');
