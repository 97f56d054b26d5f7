import Type from 'typebox';

const exact = { additionalProperties: false } as const;
const error = Type.Optional(Type.Number({ minimum: 0, maximum: 1e4 }));
const measured = (what: string) =>
	Type.Optional(
		Type.Union(
			[
				Type.Number({ minimum: 0, maximum: 1e6 }),
				Type.Object({ value: Type.Number({ minimum: 0, maximum: 1e6 }), unit: Type.String() }, exact)
			],
			{ description: `${what}; a bare number is in the parameter's own unit (dKH, mg/L)` }
		)
	);

export const SeawaterRequest = Type.Object(
	{
		salinity: Type.Object({ value: Type.Number(), unit: Type.String() }, exact),
		/** °C */
		temperatureC: Type.Number({ minimum: -2, maximum: 40 }),
		ph: Type.Optional(Type.Number({ minimum: 4, maximum: 11 })),
		/** What the pH is of: the total scale, or a pen on NBS buffers, which reads about 0.13 above it. */
		phScale: Type.Optional(Type.Unsafe<'total' | 'NBS'>({ type: 'string', enum: ['total', 'NBS'] })),
		/** Of each input, in its own unit (dKH, mg/L, PSU, C); a usual kit's where left out. */
		standardUncertainty: Type.Optional(
			Type.Object(
				{ ph: error, alkalinity: error, calcium: error, salinity: error, temperatureC: error },
				exact
			)
		),
		alkalinity: measured('Alkalinity'),
		calcium: measured('Calcium'),
		magnesium: measured('Magnesium'),
		potassium: measured('Potassium'),
		strontium: measured('Strontium')
	},
	exact
);
export type SeawaterRequest = Type.Static<typeof SeawaterRequest>;

const number = Type.Number();
export const Carbonate = Type.Object(
	{
		/** µmol/kg */
		dic: number,
		co3: number,
		co2: number,
		/** µatm */
		pco2: number,
		omegaAragonite: Type.Optional(number),
		omegaCalcite: Type.Optional(number),
		/** Of each of them, from those of the inputs. */
		standardUncertainty: Type.Optional(Type.Record(Type.String(), number))
	},
	exact
);
export type Carbonate = Type.Static<typeof Carbonate>;

export const SeawaterResult = Type.Object(
	{
		practicalSalinity: number,
		densityKgM3: number,
		sg: Type.Record(Type.String(), number),
		/** mS/cm */
		conductivity25: number,
		/** mg/L (alkalinity dKH) as it would be at 35 PSU. */
		at35: Type.Record(Type.String(), number),
		carbonate: Type.Optional(Carbonate)
	},
	exact
);
export type SeawaterResult = Type.Static<typeof SeawaterResult>;
