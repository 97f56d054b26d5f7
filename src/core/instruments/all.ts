import { display } from './display';
import { drops } from './drops';
import type { Instrument } from './instrument';
import { scaleLine } from './scale-line';
import { shades } from './shades';
import { syringe } from './syringe';

/** Every kind of instrument, by what its methods and readings say in `reads`. */
export const INSTRUMENTS = { syringe, drops, shades, display, 'scale-line': scaleLine };

export type Kind = keyof typeof INSTRUMENTS;
type Of<I> = I extends Instrument<infer M, infer R> ? { method: M; reading: R } : never;
export type Method = Of<(typeof INSTRUMENTS)[Kind]>['method'];
/** What was seen on an instrument, before any chart. */
export type RawReading = Of<(typeof INSTRUMENTS)[Kind]>['reading'];
export type MethodOf<K extends Kind> = Extract<Method, { reads: K }>;
export type ReadingOf<K extends Kind> = Extract<RawReading, { reads: K }>;
