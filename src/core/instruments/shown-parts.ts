import Type from 'typebox';
import { oneOf } from '../base';
import { amount, exact, fraction, value, word, type CommonMethod } from './profile-parts';
import { dilution, seen, seenOrBetween, tag, type Tagged } from './reading-parts';

/** What a display and a scale have alike: a number stands there. `step` is its last digit, or one of its lines. */
export const shownIn = (step: 'resolution' | 'graduation') =>
	Type.Object(
		{
			[step]: amount(1e6),
			/** Half-width of what the maker promises, in the shown unit, and as a fraction of the shown value. */
			absolute: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 })),
			relative: Type.Optional(fraction),
			unit: word,
			range: Type.Optional(Type.Tuple([value, value])),
			/** A glass hydrometer: the temperature it is made for, °C. Elsewhere it floats higher or lower. */
			hydrometerC: Type.Optional(Type.Number({ minimum: 0, maximum: 40 })),
			/** How it is drawn; a lab's answers come by post. */
			form: Type.Optional(oneOf(['meter', 'refractometer', 'hydrometer', 'thermometer', 'lab']))
		},
		exact
	);

export interface Shown {
	resolution?: number;
	graduation?: number;
	absolute?: number;
	relative?: number;
	unit: string;
	range?: [number, number];
	hydrometerC?: number;
	form?: 'meter' | 'refractometer' | 'hydrometer' | 'thermometer' | 'lab';
}

/** A method whose instrument shows its number itself. */
export interface ShownMethod extends CommonMethod {
	display: Shown;
}

/** The shapes of a raw reading of such an instrument. */
export function shownReadings<K extends string>(kind: K) {
	const reads = tag(kind);
	const calibration = Type.Object({ standard: seen, shown: seen }, exact);
	return [
		Type.Object(
			{
				reads,
				shown: seenOrBetween,
				/** Of the water, °C: a glass hydrometer is corrected by it. */
				temperatureC: Type.Optional(Type.Number({ minimum: 0, maximum: 40 })),
				/** What the instrument showed last for a standard of known content, both in the shown unit. */
				calibration: Type.Optional(calibration),
				dilution
			},
			exact
		),
		Type.Object({ reads, below: seen, dilution }, exact),
		Type.Object({ reads, above: seen, dilution }, exact)
	] as const;
}
/** A number that is shown, two it lies between, or a bound. */
export type ShownReading<K extends string = string> = Tagged<
	Type.Static<ReturnType<typeof shownReadings<K>>[number]>
>;
