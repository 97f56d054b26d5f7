import Type from 'typebox';
import { oneOf } from '../base';

const exact = { additionalProperties: false } as const;
const value = Type.Number({ minimum: -1e6, maximum: 1e6 });
const channel = Type.Number({ minimum: 0, maximum: 255 });

/** Pixels of one area: sRGB, 0 to 255 in each channel. */
const Samples = Type.Array(Type.Tuple([channel, channel, channel]), { minItems: 1, maxItems: 20_000 });
export type Samples = [number, number, number][];

const Area = Type.Object(
	{
		samples: Samples,
		/** Of the white ground right beside it: the light there. */
		white: Type.Optional(Samples)
	},
	exact
);
type Area = Type.Static<typeof Area>;

export const ColourRequest = Type.Object(
	{
		/** The card's patches, palest value first. */
		patches: Type.Array(Type.Object({ value, samples: Samples, white: Type.Optional(Samples) }, exact), {
			minItems: 2,
			maxItems: 100
		}),
		/** The white ground of the same picture. */
		white: Type.Optional(Samples),
		vial: Area,
		/** The untreated vial that a wheel is held over: the water's own tint is taken away. */
		zero: Type.Optional(Area)
	},
	exact
);
export type ColourRequest = Type.Static<typeof ColourRequest>;

const COLOUR_FLAGS = ['clipped', 'glare', 'uneven-light', 'off-the-path', 'dark', 'too-few-pixels'] as const;
export type ColourFlag = (typeof COLOUR_FLAGS)[number];
const Flag = oneOf(COLOUR_FLAGS);

const CASTS = ['none', 'blue', 'warm', 'other'] as const;
export type Cast = (typeof CASTS)[number];

export const ColourResult = Type.Object(
	{
		/** Between which two patches and what share of the way; null where the picture says nothing. */
		position: Type.Union([
			Type.Object(
				{ between: Type.Tuple([value, value]), at: Type.Number({ minimum: 0, maximum: 1 }) },
				exact
			),
			Type.Null()
		]),
		/** `<` paler than the first patch, `>` deeper than the last; then there is no value. */
		qualifier: Type.Unsafe<'=' | '<' | '>'>({ type: 'string', enum: ['=', '<', '>'] }),
		value: Type.Union([Type.Number(), Type.Null()]),
		/** 95 %. */
		interval: Type.Tuple([
			Type.Union([Type.Number(), Type.Null()]),
			Type.Union([Type.Number(), Type.Null()])
		]),
		standardUncertainty: Type.Union([Type.Number(), Type.Null()]),
		/** The same in patch steps: as a share of the gap it lies in. */
		stepUncertainty: Type.Union([Type.Number(), Type.Null()]),
		/** CIEDE2000 from the path of patches. */
		distance: Type.Union([Type.Number(), Type.Null()]),
		flags: Type.Array(Flag),
		/** The area each flag speaks of: a patch by its place from 0, or the vial, the ground, the untreated vial. */
		where: Type.Array(
			Type.Object(
				{
					flag: Flag,
					area: Type.Union([
						Type.Integer({ minimum: 0 }),
						Type.Unsafe<'vial' | 'white' | 'zero'>({ type: 'string', enum: ['vial', 'white', 'zero'] })
					])
				},
				exact
			)
		),
		/** The light's own colour. */
		cast: oneOf(CASTS),
		/** Colours of the patches in this light made neutral, as the eye would see them by day: #rrggbb. */
		colours: Type.Array(Type.String())
	},
	exact
);
export type ColourResult = Type.Static<typeof ColourResult>;
