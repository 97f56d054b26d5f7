import Type from 'typebox';

const exact = { additionalProperties: false } as const;
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
		/** Total scale. */
		ph: Type.Optional(Type.Number({ minimum: 4, maximum: 11 })),
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
		omegaCalcite: Type.Optional(number)
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
