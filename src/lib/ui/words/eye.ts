import type { ColourFlag, ColourResult } from '$core/colour';
import type { PlungerResult } from '$core/picture';
import { figures } from '$lib/ui/habits';

const AREA = { vial: 'the vial', white: 'the white ground', zero: 'the untreated vial' };

const SAID: Record<ColourFlag, (where: string) => string> = {
	clipped: (where) => `Too bright: ${where} is at the camera’s limit. Take it darker, or turn the torch off.`,
	glare: (where) => `Glare on ${where}: turn it a little, or move the lamp.`,
	'uneven-light': () => 'The light is uneven: the answer is less sure. Bring card and vial close together.',
	'off-the-path': () =>
		'The vial’s colour is none of this card’s: another kit’s card, the wrong place marked, or a colour that is not ready.',
	dark: (where) => `Too dark: ${where} is mostly the camera’s noise. More light.`,
	'too-few-pixels': (where) => `Too small: ${where} has hardly any pixels. Come closer.`
};

/** What is wrong with a picture of a card, each as a sentence that says what to do; what stops it stands first. */
export function flagsInWords(
	result: Pick<ColourResult, 'flags' | 'where' | 'cast'>,
	values: number[]
): string[] {
	const named = (area: ColourResult['where'][number]['area']) =>
		typeof area === 'number' ? `patch ${figures(values[area] ?? area)}` : AREA[area];
	const said = result.flags.map((flag) => {
		const areas = result.where.filter((w) => w.flag === flag).map((w) => named(w.area));
		return SAID[flag](
			areas.length > 3 ? `${areas.slice(0, 2).join(', ')} and ${areas.length - 2} more` : areas.join(' and ')
		);
	});
	const light =
		result.cast === 'blue'
			? ['The light is blue: some shades look alike in it. Switch the tank lamp off if you can.']
			: result.cast === 'other'
				? ['The light has a colour of its own: white light shows more.']
				: [];
	return [...said, ...light];
}

/** "between 5 and 10, nearer to 5 (31 % of the way)". */
export function shadeInWords(
	{ position, qualifier }: Pick<ColourResult, 'position' | 'qualifier'>,
	values: number[]
): string {
	if (!position) return 'nothing to read yet';
	if (qualifier === '<') return `paler than ${figures(values[0]!)}`;
	if (qualifier === '>') return `deeper than ${figures(values.at(-1)!)}`;
	const [low, high] = position.between;
	const share = Math.round(100 * position.at);
	if (share <= 4) return `matches ${figures(low)}`;
	if (share >= 96) return `matches ${figures(high)}`;
	return `between ${figures(low)} and ${figures(high)}, ${share} % of the way`;
}

/** How far apart the vial and the card look, in words. */
export const distanceInWords = (distance: number): string =>
	distance < 1
		? 'the vial looks as the card does'
		: distance < 3
			? 'the vial looks nearly as the card does'
			: 'the vial looks different from the card';

export function plungerFlags(result: PlungerResult): string[] {
	const said: Record<PlungerResult['flags'][number], string> = {
		'no-edge':
			'No plunger’s edge is seen along the barrel: mark the ends of the scale again, on the middle of the barrel.',
		'uneven-edge':
			'The plunger’s end is a cone, or it is seen at a slant: it is read at its ring, and less surely. Look along the barrel, straight on.',
		'two-edges': 'Two edges look alike: see whether the line stands on the plunger’s edge.',
		'no-lines': 'The scale’s lines are not clear: only the marked ends count, so place them with care.',
		'ends-unsure':
			'Which line is 0 is not certain: the small ticks stand where the lines seem to begin and end. Drag both ends onto them, or onto where they are.',
		blurred: 'The edge is blurred: hold still, or come closer.'
	};
	return result.flags.map((flag) => said[flag]);
}
