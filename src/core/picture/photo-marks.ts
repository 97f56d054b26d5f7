import Type from 'typebox';

const exact = { additionalProperties: false } as const;
const along = Type.Number({ minimum: -0.5, maximum: 1.5 });
/** A place in a picture as shares of its width and height, so that a smaller copy has the same. */
const Place = Type.Object({ x: along, y: along }, exact);
const Four = Type.Tuple([Place, Place, Place, Place]);

/** Where things are in a picture that a reading was taken from. */
export const PhotoMarks = Type.Union([
	Type.Object(
		{
			of: Type.Literal('shades'),
			corners: Four,
			layout: Type.Optional(Type.Array(Place, { minItems: 2, maxItems: 100 })),
			vial: Four,
			white: Type.Optional(Four),
			zero: Type.Optional(Four)
		},
		exact
	),
	Type.Object({ of: Type.Literal('syringe'), zero: Place, full: Place }, exact)
]);
export type PhotoMarks = Type.Static<typeof PhotoMarks>;
