import {
	handFor,
	isKnownValue,
	parseSyringeEntry,
	type Dilution,
	type DisplayMethod,
	type Method,
	type PlungerSeen,
	type RawReading,
	type ScaleLineMethod,
	type ShadeByEye,
	type ShadeSeen,
	type ShadesMethod,
	withHand
} from '$core/methods';
import { bad, good, type Outcome } from '$core/base';
import { formatUnit, isQuantity, parseEntry, slopeAt, valueIn } from '$core/quantities';
import { parameterOf } from '$core/catalogue';
import { amountIn, isPlausible, numberTyped, unitNamed } from '$core/quick';
import { habits, unitFor } from '$lib/ui/habits';

/** What stands on an instrument now, as it is kept on the device: what was typed or set, and how it is meant. */
export interface Draft {
	text: string;
	sampleSize: string;
	/** Syringe. */
	readAs: 'left' | 'used';
	refills: number;
	/** Drops. */
	doubtful: number;
	confirming: number;
	/** Shades: whether "between" says where, or only that. */
	placed: boolean;
	/** Shades: the column read, empty for the main one. */
	column: string;
	/** What a photograph said, and what the eye had said before it; the picture itself waits beside (`photo-drafts.ts`). */
	seenShade?: ShadeSeen | undefined;
	seenPlunger?: PlungerSeen | undefined;
	eye?: ShadeByEye | undefined;
	/** Scale: the water's temperature, and what a standard last showed. */
	temperature: string;
	standard: string;
	standardShown: string;
	/** Thinned before the test: mL of the water, mL of purified water with it. */
	thinnedMl: string;
	withMl: string;
	/** What both were drawn with; empty where nobody says. */
	drawnWith: Dilution['vessel'] | '';
}

export const freshDraft = (method: Method): Draft => ({
	text: '',
	sampleSize: method.samples?.[0]?.id ?? 'full',
	readAs: method.reads === 'syringe' ? method.syringe.readAs : 'left',
	refills: 0,
	doubtful: 0,
	confirming: 0,
	placed: false,
	column: '',
	temperature: '',
	standard: '',
	standardShown: '',
	thinnedMl: '',
	withMl: '',
	drawnWith: ''
});

/** The raw reading a draft stands for; undefined where nothing is set yet. Problems: what was typed is not understood. */
export function readingOf(method: Method, draft: Draft): Outcome<RawReading> | undefined {
	if (draft.text.trim() === '') return undefined;
	const seen = seenOn(method, draft);
	const sampleMl = optionalVolume(draft.thinnedMl);
	const waterMl = optionalVolume(draft.withMl);
	if (!seen.ok) return seen;
	const read = withHand(seen.value, habits().hands?.[handFor(method)]);
	if (sampleMl === undefined && waterMl === undefined) return good(read);
	if (!sampleMl || !waterMl || sampleMl < 0 || waterMl < 0)
		return bad('', 'a dilution needs both: how many mL of the water, with how many mL of purified water');
	const { drawnWith } = draft;
	return good({ ...read, dilution: { sampleMl, waterMl, ...(drawnWith ? { vessel: drawnWith } : {}) } });
}

function seenOn(method: Method, draft: Draft): Outcome<RawReading> {
	switch (method.reads) {
		case 'syringe': {
			const entry = parseSyringeEntry(draft.text, draft.readAs);
			if (!entry.ok) return entry;
			return good({
				...entry.value,
				...(draft.refills ? { refills: draft.refills } : {}),
				...(draft.seenPlunger ? { camera: draft.seenPlunger } : {})
			});
		}
		case 'drops':
			return dropsOf(draft);
		case 'shades':
			return shadesOf(method, draft);
		case 'display':
		case 'scale-line':
			return shownOf(method, draft);
	}
}

function dropsOf({ text, doubtful, confirming }: Draft): Outcome<RawReading> {
	const entry = parseEntry(text);
	if (!entry.ok) return entry;
	const { number, after } = entry.value;
	if (
		number.kind !== 'exact' ||
		!Number.isInteger(number.value) ||
		number.value < 0 ||
		!/^(drops?|d)?$/.test(after)
	)
		return bad('', 'drops are counted: write a whole number');
	return good({
		drops: number.value,
		...(doubtful ? { doubtful: Math.min(doubtful, number.value) } : {}),
		...(confirming ? { confirming: Math.min(confirming, number.value) } : {})
	});
}

/** Values printed in the column that is read. */
export const printedShades = (method: ShadesMethod, draft: Draft): number[] =>
	method.columns?.find((c) => c.name === draft.column)?.shades ?? method.shades;

/** The unit of that column. */
export const unitRead = (method: ShadesMethod, draft: Draft): string =>
	method.columns?.find((c) => c.name === draft.column)?.unit ?? method.unit;

/** The draft once another column is read: nothing typed yet, and what was seen stands between the same patches under their other values. */
export function inColumn(method: ShadesMethod, draft: Draft, column: string): Partial<Draft> {
	const [from, to] = [printedShades(method, draft), printedShades(method, { ...draft, column })];
	const under = <T extends ShadeByEye>(seen: T | undefined): T | undefined => {
		const [low, high] = seen?.between.map((value) => to[from.indexOf(value)]) ?? [];
		return seen && low !== undefined && high !== undefined ? { ...seen, between: [low, high] } : undefined;
	};
	return { column, text: '', seenShade: under(draft.seenShade), eye: under(draft.eye) };
}

function shadesOf(method: ShadesMethod, draft: Draft): Outcome<RawReading> {
	const { text, placed } = draft;
	const along = {
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

/** What a display says its numbers in. A value from elsewhere is typed as its keeper counts; any other instrument has its own unit. */
export function shownOn(method: DisplayMethod | ScaleLineMethod): {
	unit: string;
	range?: [number, number];
	/** What one step up or down is. */
	step: number;
} {
	const { unit, range, resolution, graduation } = method.display;
	const step = resolution ?? graduation ?? 1;
	const mine = isKnownValue(method) ? unitFor(method.parameter) || unit : unit;
	if (mine === unit) return { unit, step, ...(range ? { range } : {}) };
	const to = (value: number) => valueIn(method.parameter, value, unit, mine);
	const [low, high] = parameterOf(method.parameter)?.plausible ?? [0, 0];
	return {
		unit: mine,
		step: Number((step * Math.abs(slopeAt(method.parameter, (low + high) / 2, unit, mine))).toPrecision(1)),
		...(range ? { range: [to(range[0]), to(range[1])] as [number, number] } : {})
	};
}

/** Numbers of a display as they are stored: of a value from elsewhere in its parameter's own unit. */
function asShown(method: DisplayMethod | ScaleLineMethod, value: number, said: string | undefined): number {
	if (!isKnownValue(method)) return value;
	const from = said ?? shownOn(method).unit;
	return Number(valueIn(method.parameter, value, from, method.display.unit).toPrecision(12));
}

function shownOf(method: DisplayMethod | ScaleLineMethod, draft: Draft): Outcome<RawReading> {
	const { unit, range } = shownOn(method);
	const entry = parseEntry(draft.text, (value) =>
		range
			? value >= range[0] && value <= range[1]
			: isQuantity(method.parameter) && isPlausible(method.parameter, value, unit)
	);
	if (!entry.ok) return entry;
	const { number, after } = entry.value;
	const named =
		after && isKnownValue(method) && isQuantity(method.parameter)
			? (unitNamed(method.parameter, after) ?? undefined)
			: undefined;
	const itsOwn = unit.toLowerCase().startsWith(after.replace('µ', 'u')) || (unit === 'C' && after === '°c');
	if (after && !named && !itsOwn)
		return bad('', `this instrument shows ${formatUnit(unit) || unit}; type its number alone`);
	const of = (value: number) => asShown(method, value, named);
	if (number.kind === 'below') return good({ below: of(number.value) });
	if (number.kind === 'above') return good({ above: of(number.value) });
	const temperature =
		draft.temperature.trim() === ''
			? undefined
			: amountIn(draft.temperature, 'temperature', 'C', unitFor('temperature'));
	const standard = optionalNumber(draft.standard);
	const standardShown = optionalNumber(draft.standardShown);
	if (temperature && !temperature.ok) return bad('', `the temperature: ${temperature.problems[0]?.message}`);
	if (standard === null || standardShown === null) return bad('', 'what the standard shows is not a number');
	return good({
		shown: number.kind === 'exact' ? of(number.value) : [of(number.low), of(number.high)],
		...(temperature === undefined ? {} : { temperatureC: temperature.value }),
		...(standard === undefined || standardShown === undefined
			? {}
			: { calibration: { standard, shown: standardShown } })
	});
}

/** Millilitres, in whatever unit they were typed, nothing typed (undefined), or something else (null). */
function optionalVolume(text: string): number | undefined | null {
	if (text.trim() === '') return undefined;
	const volume = amountIn(text, 'volume', 'mL');
	return volume.ok ? volume.value : null;
}

/** A number, nothing typed (undefined), or something else (null). */
function optionalNumber(text: string): number | undefined | null {
	if (text.trim() === '') return undefined;
	const number = numberTyped(text);
	return Number.isNaN(number) ? null : number;
}
