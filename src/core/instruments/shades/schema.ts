import Type from 'typebox';
import { oneOf } from '../../base';
import { common, exact, name, value, word } from '../profile-parts';
import { dilution, hand, seen, tag, type Tagged } from '../reading-parts';

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

const reads = tag('shades');
/** Name of the column the numbers were read in, where it is not the main one. */
const column = Type.Optional(Type.String({ maxLength: 120 }));
const share = Type.Number({ minimum: 0, maximum: 1 });
/** What a photograph of a card and a vial said, whatever was kept in the end: where between two patches, with its error in steps of a patch. */
export const ShadeSeen = Type.Object(
	{
		between: Type.Tuple([seen, seen]),
		position: share,
		stepUncertainty: Type.Number({ minimum: 0, maximum: 100 }),
		/** Paler than the first of the two, or deeper than the last: past the card's end. */
		beyond: Type.Optional(Type.Unsafe<'<' | '>'>({ type: 'string', enum: ['<', '>'] })),
		/** CIEDE2000 from the path of patches. */
		distance: Type.Number({ minimum: 0, maximum: 1000 })
	},
	exact
);
export type ShadeSeen = Type.Static<typeof ShadeSeen>;
/** What the eye said by itself, before the photograph: between two patches, and where. */
export const ShadeByEye = Type.Object({ between: Type.Tuple([seen, seen]), position: share }, exact);
export type ShadeByEye = Type.Static<typeof ShadeByEye>;
const photographed = { camera: Type.Optional(ShadeSeen), eye: Type.Optional(ShadeByEye), hand };
export const ByShade = Type.Object({ reads, shade: seen, column, dilution, ...photographed }, exact);
export const BetweenShades = Type.Object(
	{
		reads,
		between: Type.Tuple([seen, seen]),
		position: Type.Optional(share),
		column,
		dilution,
		...photographed
	},
	exact
);
export const BelowShade = Type.Object({ reads, below: seen, column, dilution, ...photographed }, exact);
export const AboveShade = Type.Object({ reads, above: seen, column, dilution, ...photographed }, exact);

/** A patch that was matched, two it lies between (and where), or a bound past an end of the card. */
export type ShadesReading = Tagged<
	| Type.Static<typeof ByShade>
	| Type.Static<typeof BetweenShades>
	| Type.Static<typeof BelowShade>
	| Type.Static<typeof AboveShade>
>;
