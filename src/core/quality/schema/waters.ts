import Type from 'typebox';
import { exact, error, word, value, Result } from './parts';
import { oneOf } from '../../base';

const Levels = Type.Record(word, Type.Object({ value, standardUncertainty: error }, exact), {
	minProperties: 1,
	maxProperties: 20
});
export const WatersRequest = Type.Object(
	{
		/** Levels in the parameters' own units. */
		a: Levels,
		/** Another water; left out: reference sea water at a's own salinity, or at 35 PSU where it is not known. */
		b: Type.Optional(Levels)
	},
	exact
);
export type WatersRequest = Type.Static<typeof WatersRequest>;
export const WatersResult = Type.Object(
	{
		/** What b is taken to hold. */
		against: oneOf(['other', 'sea water']),
		salinity: Type.Number(),
		/** Nobody said its salinity: it is taken for the sea's own. */
		assumed: Type.Boolean(),
		differences: Type.Record(
			word,
			Type.Object({ a: Type.Number(), b: Type.Number(), ...Result, chance: Type.Number() }, exact)
		)
	},
	exact
);
export type WatersResult = Type.Static<typeof WatersResult>;
