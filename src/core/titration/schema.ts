import Type from 'typebox';
import { LIGHTS, type Light } from '../photograph';
import { COMPARATORS, type Compared } from './growth';
import { INDICATORS, USUAL_INDICATOR, type Indicator, type Titrated } from './indicators';
import { oneOf } from '../base';

const exact = { additionalProperties: false } as const;
const upTo = (maximum: number) => Type.Optional(Type.Number({ minimum: 0, maximum }));
const rgb = Type.Tuple([Type.Number(), Type.Number(), Type.Number()]);

export const TitrationRequest = Type.Object(
	{
		/** What is titrated, or compared: of a comparator only time passes, and its dye grows. */
		analyte: oneOf([
			...(Object.keys(USUAL_INDICATOR) as Titrated[]),
			...(Object.keys(COMPARATORS) as Compared[])
		]),
		/** In the parameters' own units (dKH, mg/L, dGH, PSU, °C); natural sea water where it is not said. pH on the total scale. */
		water: Type.Optional(
			Type.Object(
				{
					alkalinity: upTo(100),
					calcium: upTo(5000),
					magnesium: upTo(10_000),
					potassium: upTo(5000),
					hardness: upTo(500),
					nitrate: upTo(1000),
					nitrite: upTo(1000),
					phosphate: upTo(1000),
					ammonia: upTo(1000),
					silicate: upTo(1000),
					salinity: Type.Optional(Type.Number({ minimum: 19, maximum: 43 })),
					temperatureC: Type.Optional(Type.Number({ minimum: 2, maximum: 35 })),
					ph: Type.Optional(Type.Number({ minimum: 6, maximum: 9.5 }))
				},
				exact
			)
		),
		sampleMl: Type.Number({ minimum: 0.1, maximum: 100 }),
		/** Where something is titrated. */
		titrant: Type.Optional(Type.Object({ molar: Type.Number({ minimum: 1e-4, maximum: 2 }) }, exact)),
		indicator: Type.Optional(oneOf(Object.keys(INDICATORS) as Indicator[])),
		/** Potassium titrated back: precipitant that was put in, mmol. */
		precipitantMmol: upTo(10),
		/** Each begins when the one before is over: mL that fall in so many seconds, and how it is swirled meanwhile, 0 to 1. */
		additions: Type.Array(
			Type.Object(
				{
					ml: Type.Number({ minimum: 0, maximum: 100 }),
					seconds: Type.Number({ minimum: 0, maximum: 3600 }),
					swirl: Type.Optional(Type.Number({ minimum: 0, maximum: 1 }))
				},
				exact
			),
			{ maxItems: 500 }
		),
		light: Type.Optional(oneOf(Object.keys(LIGHTS) as Light[])),
		/** Drops of this size, mL, differing by chance and breaking now and then, in place of what each addition says exactly. */
		dropMl: Type.Optional(Type.Number({ minimum: 0.002, maximum: 0.2 })),
		seed: Type.Optional(Type.Integer({ minimum: 0, maximum: 4294967295 }))
	},
	exact
);
export type TitrationRequest = Type.Static<typeof TitrationRequest>;

const orNull = Type.Union([Type.Number(), Type.Null()]);
export const TitrationResult = Type.Object(
	{
		/** After each addition. */
		frames: Type.Array(
			Type.Object(
				{
					seconds: Type.Number(),
					ml: Type.Number(),
					/** Alkalinity: total scale. */
					ph: Type.Optional(Type.Number()),
					/** Others: of what is titrated, mol/L. */
					pm: Type.Optional(Type.Number()),
					/** 1 where the titrant is spread evenly. */
					mixed: Type.Number(),
					/** How far the indicator has turned, 0 to 1; of a comparator, how deep it stands against what its card allows for. */
					turned: Type.Number(),
					/** sRGB, 0 to 255: of all, and where the drops fall. */
					colour: rgb,
					plume: rgb
				},
				exact
			)
		),
		endPoint: Type.Object(
			{
				/** mL at which half the indicator has turned; null where it never does. */
				ml: orNull,
				p: orNull,
				/** By amounts of substance alone, mL. */
				equivalenceMl: Type.Number()
			},
			exact
		)
	},
	exact
);
export type TitrationResult = Type.Static<typeof TitrationResult>;
