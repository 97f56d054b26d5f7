import { display } from './display';
import type { DisplayMethod, DisplayReading } from './display/schema';
import { drops } from './drops';
import type { DropsMethod, DropsReading } from './drops/schema';
import type { Instrument } from './instrument';
import { scaleLine } from './scale-line';
import type { ScaleLineMethod, ScaleLineReading } from './scale-line/schema';
import { shades } from './shades';
import type { ShadesMethod, ShadesReading } from './shades/schema';
import { syringe } from './syringe';
import type { SyringeMethod, SyringeReading } from './syringe/schema';

/** Every kind of instrument, by what its methods and readings say in `reads`. */
export const INSTRUMENTS = {
	syringe,
	drops,
	shades,
	display,
	'scale-line': scaleLine
} satisfies { [K in Kind]: Instrument<MethodOf<K>, ReadingOf<K>> };

/** The methods and readings of each kind. */
export interface Kinds {
	syringe: { method: SyringeMethod; reading: SyringeReading };
	drops: { method: DropsMethod; reading: DropsReading };
	shades: { method: ShadesMethod; reading: ShadesReading };
	display: { method: DisplayMethod; reading: DisplayReading };
	'scale-line': { method: ScaleLineMethod; reading: ScaleLineReading };
}
export type Kind = keyof Kinds;
export type MethodOf<K extends Kind> = Kinds[K]['method'];
export type ReadingOf<K extends Kind> = Kinds[K]['reading'];
export type Method = MethodOf<Kind>;
/** What was seen on an instrument, before any chart. */
export type RawReading = ReadingOf<Kind>;
