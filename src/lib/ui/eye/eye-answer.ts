import type { ColourResult } from '$core/colour';
import type { Method, ShadeByEye, SyringeMethod } from '$core/instruments';
import type { PlungerResult } from '$core/picture';
import { readingOf, type Draft } from '$lib/ui/instruments/draft';
import { printedShades } from '$lib/ui/instruments/shades/draft';
import { complement, written } from '$lib/ui/instruments/syringe/plunger-text';

// What a picture said, as it stands on the instrument then.

/** What the eye had said before the picture: a marker that stood on the card. Undefined where none did. */
export function eyeBefore(method: Method, draft: Draft): ShadeByEye | undefined {
	if (method.reads !== 'shades' || draft.seenShade) return draft.eye;
	const seen = readingOf(method, draft);
	if (!seen?.ok) return undefined;
	if ('between' in seen.value) return { between: seen.value.between, position: seen.value.position ?? 0.5 };
	if (!('shade' in seen.value)) return undefined;
	const shades = printedShades(method, draft);
	const at = shades.indexOf(seen.value.shade);
	const low = Math.min(at, shades.length - 2);
	return { between: [shades[low]!, shades[low + 1]!], position: at - low };
}

/** The instrument once a card's picture is taken at its word; undefined where it says nothing. */
export function shadeTaken(
	{ position: place, qualifier, stepUncertainty, distance }: ColourResult,
	eye: ShadeByEye | undefined
): Partial<Draft> | undefined {
	if (!place) return undefined;
	const { between } = place;
	// As it is written beside the card.
	const position = Number(place.at.toFixed(2));
	const texts = {
		'<': `<${between[0]}`,
		'>': `>${between[1]}`,
		'=': `${between[0]}-${between[1]} @ ${position.toFixed(2)}`
	};
	return {
		text: texts[qualifier],
		placed: true,
		seenShade: {
			between,
			position,
			stepUncertainty: Number((stepUncertainty ?? 0.5).toPrecision(3)),
			distance: Number((distance ?? 0).toFixed(2)),
			...(qualifier === '=' ? {} : { beyond: qualifier })
		},
		eye
	};
}

/** The same for a syringe, by the convention it is read in. */
export function plungerTaken(
	{ left: seen, standardUncertainty }: PlungerResult,
	{ syringe: { fillMl, graduationMl } }: SyringeMethod,
	readAs: Draft['readAs']
): Partial<Draft> | undefined {
	if (seen === null) return undefined;
	const left = Number(seen.toFixed(4));
	return {
		text: written(
			readAs === 'left' ? left : Number((complement(left, fillMl) as number).toFixed(4)),
			graduationMl / 10
		),
		seenPlunger: { left, standardUncertainty: Number((standardUncertainty ?? graduationMl).toPrecision(3)) }
	};
}
