import Type from 'typebox';

export const ConvertRequest = Type.Object(
	{
		quantity: Type.String(),
		value: Type.Number(),
		from: Type.String(),
		to: Type.String()
	},
	{ additionalProperties: false }
);
export type ConvertRequest = Type.Static<typeof ConvertRequest>;

export const ConvertResult = Type.Object(
	{ value: Type.Number(), unit: Type.String() },
	{ additionalProperties: false }
);
export type ConvertResult = Type.Static<typeof ConvertResult>;
