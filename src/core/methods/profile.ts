import Type, { type TSchema } from 'typebox';
import { oneOf } from '../base';

/**
 * `tevrik.method/1`: how one kit or instrument is read, as keepers share it in a file. Amounts in mL, times in
 * seconds, relative errors as fractions; every error is a standard uncertainty unless its name says otherwise.
 */

const exact = { additionalProperties: false } as const;
const amount = (maximum: number) => Type.Number({ exclusiveMinimum: 0, maximum });
const fraction = Type.Number({ minimum: 0, maximum: 1 });
const value = Type.Number({ minimum: -1e6, maximum: 1e6 });
const name = Type.String({ minLength: 1, maxLength: 120 });
const word = Type.String({ minLength: 1, maxLength: 40 });

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

const perMlScale = Type.Object(
	{ kind: Type.Literal('linear'), perMl: amount(1e6), atZero: Type.Optional(value) },
	exact
);
const perDropScale = Type.Object(
	{ kind: Type.Literal('linear'), perDrop: amount(1e6), atZero: Type.Optional(value) },
	exact
);
const eitherScale = <T extends TSchema>(linear: T) =>
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
const endPoint = Type.Optional(oneOf(['mid-drop', 'after-drop']));

const common = {
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

export const SyringeMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('syringe'),
		syringe: Type.Object(
			{ fillMl: amount(100), graduationMl: amount(10), readAs: oneOf(['left', 'used']) },
			exact
		),
		endPoint,
		scale: eitherScale(perMlScale)
	},
	exact
);
export type SyringeMethod = Type.Static<typeof SyringeMethod>;

export const DropsMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('drops'),
		/** Whether a drop added after the colour had turned is part of the kit's count. */
		countConfirming: Type.Optional(Type.Boolean()),
		endPoint,
		scale: eitherScale(perDropScale)
	},
	exact
);
export type DropsMethod = Type.Static<typeof DropsMethod>;

export const ShadesMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('shades'),
		/** Values of the patches, palest first. */
		shades: Type.Array(value, { minItems: 2, maxItems: 100 }),
		/** Colours of the patches as the keeper sampled them, for recognising a patch; never a claim to match. */
		colours: Type.Optional(Type.Array(Type.String({ pattern: '^#[0-9a-fA-F]{6}$' }), { maxItems: 100 })),
		/** Other columns of values printed beside the same patches: a high range, or another unit. */
		columns: Type.Optional(
			Type.Array(
				Type.Object(
					{ name, shades: Type.Array(value, { minItems: 2, maxItems: 100 }), unit: Type.Optional(word) },
					exact
				),
				{ maxItems: 4 }
			)
		),
		/** How the patches are matched: a card beside the vial, a wheel over it, a block that slides. */
		form: Type.Optional(oneOf(['card', 'wheel', 'block']))
	},
	exact
);
export type ShadesMethod = Type.Static<typeof ShadesMethod>;

const shownIn = (step: 'resolution' | 'graduation') =>
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

export const DisplayMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('display'),
		display: Type.Unsafe<Shown>(shownIn('resolution'))
	},
	exact
);
export type DisplayMethod = Type.Static<typeof DisplayMethod>;

export const ScaleLineMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('scale-line'),
		display: Type.Unsafe<Shown>(shownIn('graduation'))
	},
	exact
);
export type ScaleLineMethod = Type.Static<typeof ScaleLineMethod>;

export type Method = SyringeMethod | DropsMethod | ShadesMethod | DisplayMethod | ScaleLineMethod;
export const Method = Type.Unsafe<Method>({
	title: 'A method of reading one parameter',
	type: 'object',
	required: ['reads'],
	discriminator: { propertyName: 'reads' },
	oneOf: [SyringeMethod, DropsMethod, ShadesMethod, DisplayMethod, ScaleLineMethod]
});
