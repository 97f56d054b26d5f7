import { isKnownValue } from '$core/methods';
import type { ShownMethod, ShownReading } from '$core/instruments';
import { bad, good, type Outcome } from '$core/base';
import { formatUnit, isQuantity, parseEntry, slopeAt, valueIn } from '$core/quantities';
import { parameterOf } from '$core/catalogue';
import { amountIn, isPlausible, numberTyped, unitNamed } from '$core/quick';
import { typedAs, unitFor } from '$lib/ui/habits';
import { valueFor } from '$lib/ui/mine';

export interface ShownDraft {
	/** The water's temperature, and what a standard last showed. */
	temperature: string;
	standard: string;
	standardShown: string;
}
interface Typed extends ShownDraft {
	text: string;
}

/** What a display says its numbers in. A value from elsewhere is typed as its keeper counts; any other instrument has its own unit. */
export function shownOn(method: ShownMethod): {
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
function asShown(method: ShownMethod, value: number, said: string | undefined): number {
	if (!isKnownValue(method)) return value;
	const from = said ?? shownOn(method).unit;
	return Number(valueIn(method.parameter, value, from, method.display.unit).toPrecision(12));
}

/** What was shown, without the tag of its kind. */
type Seen = Pick<Shown, 'shown' | 'temperatureC' | 'calibration'> | { below: number } | { above: number };
type Shown = Extract<ShownReading, { shown: unknown }>;

export function shownRead(method: ShownMethod, draft: Typed): Outcome<Seen> {
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

/** As typed: a value from elsewhere as this person counts it, what an instrument showed as it showed it. */
export function shownTyped(reading: ShownReading, method?: ShownMethod): Partial<Typed> {
	const mine = (x: number) =>
		method && isKnownValue(method) ? Number(typedAs(valueFor(method.parameter, x), 6).replace(',', '.')) : x;
	if ('below' in reading) return { text: `<${mine(reading.below)}` };
	if ('above' in reading) return { text: `>${mine(reading.above)}` };
	const { shown, temperatureC } = reading;
	return {
		text: typeof shown === 'number' ? String(mine(shown)) : shown.map(mine).join('-'),
		temperature: temperatureC === undefined ? '' : typedAs(valueFor('temperature', temperatureC), 4)
	};
}

/** A number, nothing typed (undefined), or something else (null). */
function optionalNumber(text: string): number | undefined | null {
	if (text.trim() === '') return undefined;
	const number = numberTyped(text);
	return Number.isNaN(number) ? null : number;
}
