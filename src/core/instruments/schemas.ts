import Type, { type TObject } from 'typebox';
import type { Kind, Method as AnyMethod, RawReading as AnyReading } from './all';
import { DisplayMethod, DisplayReadings } from './display/schema';
import { ByDrops, DropsMethod } from './drops/schema';
import { ScaleLineMethod, ScaleLineReadings } from './scale-line/schema';
import { AboveShade, BelowShade, BetweenShades, ByShade, ShadesMethod } from './shades/schema';
import { ByLeft, ByUsed, SyringeMethod } from './syringe/schema';

/** The schema of each kind's methods, and the shapes of its raw readings. */
const SCHEMAS = {
	syringe: { method: SyringeMethod, readings: [ByLeft, ByUsed] },
	drops: { method: DropsMethod, readings: [ByDrops] },
	shades: { method: ShadesMethod, readings: [ByShade, BetweenShades, BelowShade, AboveShade] },
	display: { method: DisplayMethod, readings: DisplayReadings },
	'scale-line': { method: ScaleLineMethod, readings: ScaleLineReadings }
} satisfies Record<Kind, { method: TObject; readings: readonly TObject[] }>;

// Functions that the build knows to do nothing else: no page loads what they make.
const shapes = (): TObject[] => Object.values(SCHEMAS).flatMap((kind) => [...kind.readings]);
const methods = () =>
	Type.Unsafe<AnyMethod>({
		title: 'A method of reading one parameter',
		type: 'object',
		required: ['reads'],
		discriminator: { propertyName: 'reads' },
		oneOf: Object.values(SCHEMAS).map((kind) => kind.method)
	});
const given = () => Type.Unsafe<GivenReading>(Type.Union(shapes()));
const raw = () =>
	Type.Unsafe<AnyReading>({
		anyOf: shapes().map((shape) => ({ ...shape, required: ['reads', ...(shape.required ?? [])] }))
	});

/** A method of reading one parameter, of any kind. */
export const Method = /*#__PURE__*/ methods();
export type Method = AnyMethod;

/** A raw reading with or without its tag, as it is sent: the method says how it was read. */
export const GivenReading = /*#__PURE__*/ given();
export type GivenReading =
	AnyReading | Type.Static<(typeof SCHEMAS)[keyof typeof SCHEMAS]['readings'][number]>;

/** A raw reading that says which kind of instrument it was seen on. */
export const RawReading = /*#__PURE__*/ raw();
export type RawReading = AnyReading;
