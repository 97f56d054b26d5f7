import type { Pack } from '$lib/api/methods';
import type { BenchRequest } from '$core/schedule';
import { inTurn, requestOf, testsOf, type Choice, type Chosen } from './choices';

/** What a keeper chose for a session, kept on the device until it begins. */
export interface Wish {
	/** A method’s id, or `method@water` for another water than the session’s; what stands here twice is done twice. */
	methods: string[];
	/** Whether duplicates and checks show nothing before all is read. */
	hidden: boolean;
	/** The order wanted, by keys as {@link keyed} makes them; none: whatever is shortest. */
	order: string[];
	people: number;
	save: 'each' | 'together';
}
export const WISHED: Omit<Wish, 'methods'> = { hidden: true, order: [], people: 1, save: 'together' };

/** Between a method and the water it is tried on, and before which of its kind an entry is. */
export const [AT, NTH] = ['@', '#'];

/** What there is to choose from. */
export interface Offer {
	methods: (Choice & { own?: boolean })[];
	sources: { id: string }[];
	/** Newest first. */
	latest: { parameter: string; methodId: string }[];
	due: { parameter: string; now: boolean }[];
	packs: Pack[];
}

/** What one entry names, where that is still there. */
export function choiceOf(
	entry: string,
	{ methods, sources }: Pick<Offer, 'methods' | 'sources'>
): { choice: Choice; sourceId?: string } | undefined {
	const [id, sourceId] = entry.split(AT);
	const choice = methods.find((m) => m.id === id);
	if (!choice || (sourceId !== undefined && !sources.some((s) => s.id === sourceId))) return undefined;
	return { choice, ...(sourceId === undefined ? {} : { sourceId }) };
}

/** What stands in the list at first: what was asked for, or what is due, each by the kit it was read with last. */
export function listedAtFirst(asked: string[], offer: Offer): string[] {
	const { methods, latest, due } = offer;
	const usual = (parameter: string): Choice | undefined =>
		methods.find((m) => m.id === latest.find((r) => r.parameter === parameter)?.methodId) ??
		methods.find((m) => m.profile.parameter === parameter && m.own) ??
		methods.find((m) => m.profile.parameter === parameter);
	const listed = asked.length ? asked : due.filter((d) => d.now).flatMap((d) => usual(d.parameter)?.id ?? []);
	return listed.filter((entry) => choiceOf(entry, offer));
}

/** Each entry with which of its kind it is: what stands there twice is told apart. */
export const keyed = (methods: string[]): { entry: string; key: string }[] =>
	methods.map((entry, i) => ({
		entry,
		key: `${entry}${NTH}${methods.slice(0, i).filter((e) => e === entry).length}`
	}));

/** Parameters whose kits are held against each other, or against what is known: they are read blind. */
export const comparedIn = (methods: string[], offer: Pick<Offer, 'methods' | 'sources'>): Set<string> =>
	new Set(
		methods.flatMap((entry, i) => {
			const twice = methods.some((e, j) => j !== i && e === entry);
			const parameter = choiceOf(entry, offer)?.choice.profile.parameter;
			return parameter && (entry.includes(AT) || twice) ? [parameter] : [];
		})
	);

/** The tests that are wished for, in their turn. */
export function chosenBy(
	wish: Pick<Wish, 'methods' | 'hidden'>,
	offer: Pick<Offer, 'methods' | 'sources'>
): (Chosen & { key: string; entry: string })[] {
	const compared = comparedIn(wish.methods, offer);
	return inTurn(
		keyed(wish.methods).flatMap(({ entry, key }) => {
			const found = choiceOf(entry, offer);
			if (!found) return [];
			const hidden = wish.hidden && compared.has(found.choice.profile.parameter);
			return [{ ...found, key, entry, ...(hidden ? { hidden } : {}) }];
		})
	);
}

/** The question to `bench` that a fresh page asks; none where nothing stands in its list. */
export function firstRequest(asked: string[], offer: Offer): BenchRequest | undefined {
	const methods = listedAtFirst(asked, offer);
	const tests = testsOf(chosenBy({ ...WISHED, methods }, offer), offer.packs);
	const profileOf = (version: string) => offer.methods.find((m) => m.versionId === version)?.profile;
	return tests.length ? requestOf(tests, profileOf, WISHED.people, []) : undefined;
}
