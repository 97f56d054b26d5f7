import Type, { type TSchema } from 'typebox';
import { oneOf } from '../base';

/**
 * Parts of `tevrik.method/1`: how one kit or instrument is read, as keepers share it in a file. Amounts in mL, times in
 * seconds, relative errors as fractions; every error is a standard uncertainty unless its name says otherwise.
 */

export const exact = { additionalProperties: false } as const;
export const amount = (maximum: number) => Type.Number({ exclusiveMinimum: 0, maximum });
export const fraction = Type.Number({ minimum: 0, maximum: 1 });
export const value = Type.Number({ minimum: -1e6, maximum: 1e6 });
export const name = Type.String({ minLength: 1, maxLength: 120 });
export const word = Type.String({ minLength: 1, maxLength: 40 });

export const Table = Type.Object(
	{
		kind: Type.Literal('table'),
		/** Lines of the leaflet's chart: [reading, value]. */
		points: Type.Array(Type.Tuple([value, value]), { minItems: 2, maxItems: 500 }),
		/** Syringes only: whether the chart goes by what is left in the syringe or by what was used. */
		by: Type.Optional(oneOf(['left', 'used']))
	},
	exact
);
export type Table = Type.Static<typeof Table>;

export const eitherScale = <T extends TSchema>(linear: T) =>
	Type.Unsafe<Type.Static<T> | Table>({
		type: 'object',
		required: ['kind'],
		discriminator: { propertyName: 'kind' },
		oneOf: [linear, Table]
	});

export const SampleSize = Type.Object({ id: word, ml: amount(1000), times: amount(100) }, exact);
export type SampleSize = Type.Static<typeof SampleSize>;

export const Uncertainty = Type.Object(
	{
		/** Of the first sample's volume. */
		sampleRelative: Type.Optional(fraction),
		/** Of the titrant's strength, from batch to batch. */
		titrantRelative: Type.Optional(fraction),
		/** Volume of the drop that may have been one too many. */
		dropMl: Type.Optional(amount(1)),
		/** Of the volume of a sample or of a dilution, mL, whatever is drawn; beside `sampleRelative`. */
		volumeMl: Type.Optional(Type.Number({ minimum: 0, maximum: 100 })),
		/** Scatter of the mean drop from test to test. */
		dropRelative: Type.Optional(fraction)
	},
	exact
);
export type Uncertainty = Type.Static<typeof Uncertainty>;

export const Step = Type.Object(
	{
		do: oneOf(['measure', 'add', 'mix', 'wait', 'titrate', 'match', 'filter', 'dilute', 'rinse', 'read']),
		text: Type.String({ maxLength: 300 }),
		seconds: Type.Optional(Type.Number({ minimum: 0, maximum: 86_400 })),
		within: Type.Optional(Type.Number({ minimum: 0, maximum: 86_400 })),
		/** A thing it occupies until the next step, where a keeper has one for several kits: a meter, a filter stand. */
		uses: Type.Optional(word),
		/** Titrations: the share of what is expected that may go in quickly, before it goes on drop by drop. */
		fast: Type.Optional(fraction),
		/** Titrations: the colour passes, so the first moment of it is the end, whatever it fades to after. */
		passing: Type.Optional(Type.Literal(true)),
		caution: Type.Optional(Type.String({ maxLength: 300 }))
	},
	exact
);
export type Step = Type.Static<typeof Step>;

/**
 * Which reading a kit's chart means: `after-drop`, what the keeper reads after the last drop, so that the leaflet's own number stands (the
 * default); `mid-drop`, the middle of the last drop.
 */
export const endPoint = Type.Optional(oneOf(['mid-drop', 'after-drop']));

export const common = {
	format: Type.Literal('tevrik.method/1'),
	id: Type.String({ pattern: '^[a-z0-9][a-z0-9-]{0,59}$' }),
	name,
	parameter: word,
	unit: word,
	samples: Type.Optional(Type.Array(SampleSize, { minItems: 1, maxItems: 8 })),
	uncertainty: Type.Optional(Uncertainty),
	/** The value is what remains after so many times another parameter's answer is taken away. */
	takeAway: Type.Optional(Type.Object({ parameter: word, times: amount(1000) }, exact)),
	/** It goes on in the vial in which this parameter was measured just before, with a second titrant. */
	continues: Type.Optional(word),
	steps: Type.Optional(Type.Array(Step, { maxItems: 60 })),
	/** Its steps are a template's: nobody has held them against the kit's own leaflet yet. */
	stepsBy: Type.Optional(Type.Literal('template')),
	/** Its scale is a template's: what is read by it is kept and judged by nothing until the leaflet's own chart takes its place. */
	chart: Type.Optional(Type.Literal('template')),
	/** The leaflet's lines as they were typed, [reading, value]: what the scale was made from. */
	lines: Type.Optional(Type.Array(Type.Tuple([value, value]), { maxItems: 500 })),
	pack: Type.Optional(
		Type.Object(
			{
				tests: Type.Integer({ minimum: 1, maximum: 100_000 }),
				price: Type.Number({ minimum: 0, maximum: 1e6 })
			},
			exact
		)
	),
	notes: Type.Optional(Type.String({ maxLength: 2000 }))
};

/** What every method has, whatever it is read by. */
export interface CommonMethod extends Type.Static<Type.TObject<typeof common>> {
	/** The kind of its instrument: a name of `INSTRUMENTS`. */
	reads: string;
}
