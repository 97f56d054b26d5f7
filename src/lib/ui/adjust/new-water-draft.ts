import { good, type Outcome, type Problem } from '$core/base';
import { PLANNED, parameterOf } from '$core/catalogue';
import { isQuantity } from '$core/quantities';
import { amountIn, numberTyped, plainNumber } from '$core/quick';
import type { WaterChange } from '$core/tank';
import { unitFor } from '$lib/ui/habits';

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

/** Largest change, %, and days between two: what a keeper may type, and what is shown before they have. */
const LARGEST = { least: 1, most: 90, usual: 20 };
const EVERY = { least: 1, most: 60, usual: 7 };

const shareTyped = (text: string): number | undefined => {
	const share = numberTyped(text);
	return share >= LARGEST.least && share <= LARGEST.most ? share : undefined;
};
const daysTyped = (text: string): number | undefined => {
	const days = numberTyped(text);
	return Number.isInteger(days) && days >= EVERY.least && days <= EVERY.most ? days : undefined;
};

/** What the new water has, in the parameters' own units; what is not typed is not known. */
export function waterOf(typed: NewWaterDraft['water']): { water: Record<string, number>; wrong: Problem[] } {
	const water: Record<string, number> = {};
	const wrong: Problem[] = [];
	for (const p of PLANNED) {
		const text = typed[p] ?? '';
		if (!text.trim() || !isQuantity(p)) continue;
		const value = amountIn(text, p, parameterOf(p)?.unit ?? '', unitFor(p));
		if (value.ok) water[p] = value.value;
		else wrong.push({ path: `/water/${p}`, message: value.problems[0]?.message ?? 'is not a number' });
	}
	return { water, wrong };
}

/** What a table of changes goes by while it is typed: the usual in place of what cannot be. */
export const changeShown = ({
	largest,
	every
}: Pick<NewWaterDraft, 'largest' | 'every'>): { percent: number; everyDays: number } => ({
	percent: shareTyped(largest) ?? LARGEST.usual,
	everyDays: daysTyped(every) ?? EVERY.usual
});

/** New water as it is saved. Problems: at `/water/PARAMETER`, `/largest`, `/every` and `/cost`, all at once. */
export function waterChangeOf({ water: typed, largest, every, cost }: NewWaterDraft): Outcome<WaterChange> {
	const { water, wrong } = waterOf(typed);
	const share = shareTyped(largest);
	const everyDays = daysTyped(every);
	const price = cost.trim() ? plainNumber(cost) : undefined;
	const problems = [...wrong];
	if (share === undefined)
		problems.push({ path: '/largest', message: `is a percentage from ${LARGEST.least} to ${LARGEST.most}` });
	if (everyDays === undefined)
		problems.push({ path: '/every', message: `is a number of days from ${EVERY.least} to ${EVERY.most}` });
	if (price && !price.ok)
		problems.push({ path: '/cost', message: price.problems[0]?.message ?? 'is not a number' });
	else if (price && price.value < 0) problems.push({ path: '/cost', message: 'is a price, 0 or more' });
	if (problems.length || share === undefined || everyDays === undefined) return { ok: false, problems };
	return good({
		water,
		largestFraction: share / 100,
		everyDays,
		...(price?.ok ? { costPerL: price.value } : {})
	});
}
