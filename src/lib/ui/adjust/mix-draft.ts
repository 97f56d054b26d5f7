import { blend, type BlendResult } from '$core/adjust';
import type { Outcome } from '$core/base';
import { nameInSentence, parameterOf, parametersWith } from '$core/catalogue';
import type { Quantity } from '$core/quantities';
import { amountIn } from '$core/quick';
import { typedAs, unitFor } from '$lib/ui/habits';
import { valueFor, volumeFor, volumeUnit } from '$lib/ui/mine';

/** What waters are told apart by. */
export const TOLD_APART_BY = parametersWith('in-tap-water');
type Of = (typeof TOLD_APART_BY)[number];
/** So many of them stand beside each other. */
export const MOST_COLUMNS = 4;
export const WATERS = [
	{ id: 'tap', name: 'Tap water' },
	{ id: 'purified', name: 'Purified water' },
	{ id: 'mix', name: 'Your new water' }
] as const;
/** Water below this is fresh, PSU: salt goes in at once. */
const FRESH = 1;

/** The page of waters as it is typed, each number in the keeper's own unit. */
export interface MixDraft {
	of: Of[];
	/** By water and parameter. */
	values: Record<string, Record<string, string>>;
	/** Which waters are at hand. */
	with: Record<string, boolean>;
	wanted: Record<string, string>;
	litres: string;
	salt: { now: string; wanted: string; litres: string };
}

/** The page as it begins: purified water tests as nothing, new water has what changes are planned with. */
export const freshMix = (system: {
	netVolumeL: number;
	waterChange: { water: Record<string, number> } | null;
}): MixDraft => ({
	of: ['hardness', 'alkalinity'],
	values: {
		tap: {},
		purified: Object.fromEntries(
			TOLD_APART_BY.map((p) => [p, p === 'salinity' ? typedAs(valueFor(p, 0), 5) : '0'])
		),
		mix: Object.fromEntries(
			TOLD_APART_BY.flatMap((p) => {
				const value = system.waterChange?.water[p];
				return value === undefined ? [] : [[p, typedAs(valueFor(p, value), 5)]];
			})
		)
	},
	with: { tap: true, purified: true, mix: false },
	wanted: {},
	litres: typedAs(volumeFor(Math.round(system.netVolumeL / 5))),
	salt: { now: '', wanted: '', litres: typedAs(volumeFor(system.netVolumeL)) }
});

/** A value as it was typed, in the parameter's own unit; undefined where nothing is typed. */
export const valueTyped = (text: string | undefined, of: Quantity): Outcome<number> | undefined =>
	text?.trim() ? amountIn(text, of, parameterOf(of)?.unit ?? '', unitFor(of)) : undefined;
/** A volume as it was typed, L. */
export const litresTyped = (text: string): Outcome<number> | undefined =>
	text.trim() ? amountIn(text, 'volume', 'L', volumeUnit()) : undefined;
export const wrongIn = (typed: Outcome<unknown> | undefined): string | undefined =>
	typed && !typed.ok ? (typed.problems[0]?.message ?? 'is not a number') : undefined;

const known = (typed: Outcome<number> | undefined): number | undefined =>
	typed?.ok ? typed.value : undefined;

/** Shares of the waters that come nearest to what is wanted, or what has to be typed first; undefined where nothing is asked yet. */
export function sharesIn(
	draft: MixDraft
): { found: NonNullable<BlendResult['shares']> } | { missing: string } | undefined {
	const waters = WATERS.filter((w) => draft.with[w.id]);
	const valuesIn = (typed: Record<string, string> | undefined): Record<string, number> =>
		Object.fromEntries(
			draft.of.flatMap((p) => {
				const value = known(valueTyped(typed?.[p], p));
				return value === undefined ? [] : [[p, value]];
			})
		);
	const target = valuesIn(draft.wanted);
	const litres = known(litresTyped(draft.litres));
	if (!Object.keys(target).length || waters.length < 2 || !litres || litres < 0) return undefined;
	const mixed = waters.map(({ id, name }) => ({ id, name, values: valuesIn(draft.values[id]) }));
	for (const { name, values } of mixed)
		for (const p of Object.keys(target))
			if (values[p] === undefined) return { missing: `${name}: type its ${nameInSentence(p)} first.` };
	const made = blend({ waters: mixed.map(({ id, values }) => ({ id, values })), target, litres });
	if (!made.ok) return { missing: made.problems[0]?.message ?? '' };
	return made.value.shares && { found: made.value.shares };
}

/** Salt or purified water for a wanted salinity; undefined where not all is typed yet. */
export function saltIn({
	salt
}: Pick<MixDraft, 'salt'>): Outcome<NonNullable<BlendResult['salinity']> & { fresh: boolean }> | undefined {
	const now = known(valueTyped(salt.now, 'salinity'));
	const wanted = known(valueTyped(salt.wanted, 'salinity'));
	const litres = known(litresTyped(salt.litres));
	if (now === undefined || wanted === undefined || !litres || litres < 0) return undefined;
	const made = blend({ salinity: { now, wanted, litres } });
	return made.ok ? { ok: true, value: { ...made.value.salinity!, fresh: now < FRESH } } : made;
}
