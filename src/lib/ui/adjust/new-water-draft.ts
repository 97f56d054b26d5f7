import { good, type Outcome, type Problem } from '$core/base';
import { PLANNED, parameterOf } from '$core/catalogue';
import { isQuantity } from '$core/quantities';
import { amountIn, numberTyped, plainNumber } from '$core/quick';
import { CHANGE_LIMITS, type WaterChange } from '$core/tank';
import { typedAs, unitFor } from '$lib/ui/habits';
import { valueFor } from '$lib/ui/mine';

/** New water and its changes as they are typed; `water` by parameter. */
export interface NewWaterDraft {
	water: Record<string, string>;
	/** Largest change, %. */
	largest: string;
	/** Days from one change to the next. */
	every: string;
	/** Price of a litre; may be left empty. */
	cost: string;
}

/** Shown before a keeper has said another: a fifth, every week. */
const USUAL = { percent: 20, everyDays: 7 };

/** What stands in the fields at first: what is kept, in this person's units. */
export const newWaterKept = (kept: WaterChange | null): NewWaterDraft => ({
	water: Object.fromEntries(
		PLANNED.map((p) => {
			const value = kept?.water[p];
			return [p, value === undefined ? '' : typedAs(valueFor(p, value), 5)];
		})
	),
	largest: typedAs(kept ? 100 * kept.largestFraction : USUAL.percent),
	every: typedAs(kept?.everyDays ?? USUAL.everyDays),
	cost: kept?.costPerL === undefined ? '' : typedAs(kept.costPerL)
});

type Limits = { minimum: number; maximum: number };
const within = (value: number, { minimum, maximum }: Limits): boolean => value >= minimum && value <= maximum;
const said = ({ minimum, maximum }: Limits, times = 1): string =>
	`from ${times * minimum} to ${times * maximum}`;

const shareTyped = (text: string): number | undefined => {
	const share = numberTyped(text) / 100;
	return within(share, CHANGE_LIMITS.fraction) ? share : undefined;
};
const daysTyped = (text: string): number | undefined => {
	const days = numberTyped(text);
	return Number.isInteger(days) && within(days, CHANGE_LIMITS.everyDays) ? days : undefined;
};

/** What the new water has, in the parameters' own units; what is not typed is not known. */
export function waterOf(typed: NewWaterDraft['water']): { water: Record<string, number>; wrong: Problem[] } {
	const water: Record<string, number> = {};
	const wrong: Problem[] = [];
	for (const p of PLANNED) {
		const text = typed[p] ?? '';
		if (!text.trim() || !isQuantity(p)) continue;
		const value = amountIn(text, p, parameterOf(p)?.unit ?? '', unitFor(p));
		if (!value.ok)
			wrong.push({ path: `/water/${p}`, message: value.problems[0]?.message ?? 'is not a number' });
		else if (value.value < 0) wrong.push({ path: `/water/${p}`, message: 'is 0 or more' });
		else water[p] = value.value;
	}
	return { water, wrong };
}

/** What a table of changes goes by while it is typed: the usual in place of what cannot be. */
export const changeShown = ({
	largest,
	every
}: Pick<NewWaterDraft, 'largest' | 'every'>): { percent: number; everyDays: number } => ({
	percent: 100 * (shareTyped(largest) ?? USUAL.percent / 100),
	everyDays: daysTyped(every) ?? USUAL.everyDays
});

/** New water as it is saved. Problems: at `/water/PARAMETER`, `/largest`, `/every` and `/cost`, all at once. */
export function waterChangeOf({ water: typed, largest, every, cost }: NewWaterDraft): Outcome<WaterChange> {
	const { water, wrong } = waterOf(typed);
	const share = shareTyped(largest);
	const everyDays = daysTyped(every);
	const price = cost.trim() ? plainNumber(cost) : undefined;
	const problems = [...wrong];
	if (share === undefined)
		problems.push({ path: '/largest', message: `is a percentage ${said(CHANGE_LIMITS.fraction, 100)}` });
	if (everyDays === undefined)
		problems.push({ path: '/every', message: `is a number of days ${said(CHANGE_LIMITS.everyDays)}` });
	if (price && !price.ok)
		problems.push({ path: '/cost', message: price.problems[0]?.message ?? 'is not a number' });
	else if (price && !within(price.value, CHANGE_LIMITS.costPerL))
		problems.push({ path: '/cost', message: `is a price ${said(CHANGE_LIMITS.costPerL)}` });
	if (problems.length || share === undefined || everyDays === undefined) return { ok: false, problems };
	return good({
		water,
		largestFraction: share,
		everyDays,
		...(price?.ok ? { costPerL: price.value } : {})
	});
}
