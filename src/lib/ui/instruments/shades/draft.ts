import type { ShadeByEye, ShadeSeen, ShadesMethod, ShadesReading } from '$core/instruments';
import { bad, good, type Outcome } from '$core/base';
import { formatUnit, isQuantity, parseEntry } from '$core/quantities';
import { numberTyped, unitNamed } from '$core/quick';

export interface ShadesDraft {
	/** Whether "between" says where, or only that. */
	placed: boolean;
	/** The column read, empty for the main one. */
	column: string;
	/** What a photograph said, and what the eye had said before it; the picture itself waits beside (`photo-drafts.ts`). */
	seenShade?: ShadeSeen | undefined;
	eye?: ShadeByEye | undefined;
}
interface Typed extends ShadesDraft {
	text: string;
}
type Column = Pick<ShadesDraft, 'column'>;

/** Values printed in the column that is read. */
export const printedShades = (method: ShadesMethod, draft: Column): number[] =>
	method.columns?.find((c) => c.name === draft.column)?.shades ?? method.shades;

/** The unit of that column. */
export const unitRead = (method: ShadesMethod, draft: Column): string =>
	method.columns?.find((c) => c.name === draft.column)?.unit ?? method.unit;

/** The draft once another column is read: nothing typed yet, and what was seen stands between the same patches under their other values. */
export function inColumn(method: ShadesMethod, draft: Typed, column: string): Partial<Typed> {
	const [from, to] = [printedShades(method, draft), printedShades(method, { ...draft, column })];
	const under = <T extends ShadeByEye>(seen: T | undefined): T | undefined => {
		const [low, high] = seen?.between.map((value) => to[from.indexOf(value)]) ?? [];
		return seen && low !== undefined && high !== undefined ? { ...seen, between: [low, high] } : undefined;
	};
	return { column, text: '', seenShade: under(draft.seenShade), eye: under(draft.eye) };
}

export function shadesRead(method: ShadesMethod, draft: Typed): Outcome<ShadesReading> {
	const { text, placed } = draft;
	const along = {
		reads: 'shades' as const,
		...(draft.column ? { column: draft.column } : {}),
		...(draft.seenShade ? { camera: draft.seenShade } : {}),
		...(draft.eye ? { eye: draft.eye } : {})
	};
	const [numbers, place] = text.split('@');
	const entry = parseEntry(numbers ?? '');
	if (!entry.ok) return entry;
	const { number, after } = entry.value;
	if (after && isQuantity(method.parameter) && unitNamed(method.parameter, after) !== method.unit)
		return bad('', `this card shows ${formatUnit(method.unit) || method.unit}; type its number alone`);
	if (number.kind === 'between') {
		const position = place === undefined ? undefined : numberTyped(place);
		if (position !== undefined && !(position >= 0 && position <= 1))
			return bad('', 'where between is a share from 0 to 1, for example 2-5 @ 0.3');
		return good({
			between: [number.low, number.high],
			...along,
			...(placed && position !== undefined ? { position } : {})
		});
	}
	if (number.kind === 'below') return good({ below: number.value, ...along });
	if (number.kind === 'above') return good({ above: number.value, ...along });
	const shades = printedShades(method, draft);
	if (shades.includes(number.value)) return good({ shade: number.value, ...along });
	if (number.value < shades[0]!) return good({ below: shades[0]!, ...along });
	const found = betweenPatches(shades, number.value);
	if (!found) return bad('', `the card ends at ${shades.at(-1)}; write >${shades.at(-1)}`);
	const { low, share } = found;
	// Who can tell how far between says so by the number itself.
	const position = placed ? { position: Number(share.toFixed(3)) } : {};
	return good({ between: [shades[low]!, shades[low + 1]!], ...along, ...position });
}

/** A number the card does not have lies between two it has: the place of the lower, and what share of the way; nothing past the ends. */
export function betweenPatches(shades: number[], value: number): { low: number; share: number } | undefined {
	const above = shades.findIndex((s) => s > value);
	if (above < 1) return undefined;
	const [from, to] = [shades[above - 1]!, shades[above]!];
	return { low: above - 1, share: (value - from) / (to - from) };
}

export function shadesTyped(reading: ShadesReading): Partial<Typed> {
	const along: Partial<Typed> = {
		column: reading.column ?? '',
		...(reading.camera ? { seenShade: reading.camera } : {}),
		...(reading.eye ? { eye: reading.eye } : {})
	};
	if ('shade' in reading) return { text: String(reading.shade), ...along };
	if ('below' in reading) return { text: `<${reading.below}`, ...along };
	if ('above' in reading) return { text: `>${reading.above}`, ...along };
	const { between, position } = reading;
	return {
		text: `${between.join('-')}${position === undefined ? '' : ` @ ${position}`}`,
		placed: position !== undefined,
		...along
	};
}
