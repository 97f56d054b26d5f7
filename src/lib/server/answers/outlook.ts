import { DAY } from '../../../core/base';
import {
	dueTests,
	isAgainTonight,
	judge,
	targets,
	triggersOf,
	whyLook,
	type DueTest,
	type Judgement,
	type JudgeRequest,
	type LookAgain
} from '../../../core/targets';
import { asTrendReading, inputsFor, type DatedEvent } from '../../../core/trend';
import type { Reading } from '../../api/readings';
import type { TrendInShort } from '../../api/trends';
import { SHORTLY, mayUse, ofTank, type Asker } from '../identity/asker';
import { lastKnown, noteLast, unlessBusy } from '../memory';
import { now } from '../clock';
import { eventsOfTank } from '../stores/events';
import { methodsFor } from '../stores/methods';
import { packsOpenedSince } from '../stores/packs';
import { MOST_NEWEST, latestReadings, measuredIn, pointOf, type StoredPoint } from '../stores/readings';
import { OWN_BANDS, bandsOf, systemFor } from '../stores/systems';
import { counting, dated, estimatesOf, requestOf } from './trends';

/** A pack that was opened so long ago has been compared or never will be, ms. */
const FRESH_PACK = 14 * DAY;

const NO_OUTLOOK: Outlook = { trends: {}, due: [], judgements: [] };
/** The same for a room to show: where it is not its turn to be made, as it was known last, said as such. Nothing is planned by it. */
export async function outlookShown(
	asker: Asker,
	systemId: string
): Promise<Outlook & { asOf?: string | null }> {
	await mayUse(asker, systemId, 'read');
	const name = `outlook ${asker.userId} ${systemId}`;
	return unlessBusy(
		async () => {
			const outlook = await outlookOf(asker, systemId);
			noteLast(name, outlook);
			return outlook;
		},
		() => {
			const { result, asOf } = lastKnown(name, NO_OUTLOOK);
			return { ...result, asOf: asOf ?? null };
		}
	);
}

/** Everything the rack says: estimates, what is due, what deserves attention. */
export async function outlookOf(asker: Asker, systemId: string): Promise<Outlook> {
	await mayUse(asker, systemId, 'read');
	const [packs, kits] = await Promise.all([
		packsOpenedSince(asker, new Date(now().getTime() - FRESH_PACK)),
		methodsFor(asker)
	]);
	const shelf = [...new Set(kits.flatMap((k) => (k.own ? k.profile.parameter : [])))];
	const make = () => findOutlook(asker, systemId, packs, shelf);
	return ofTank(asker, systemId, ['outlook', packs, shelf], make, SHORTLY);
}

interface Outlook {
	trends: Record<string, TrendInShort>;
	due: (Omit<DueTest, 'at'> & { at: string })[];
	judgements: Judgement[];
}

async function findOutlook(
	asker: Asker,
	systemId: string,
	packs: Awaited<ReturnType<typeof packsOpenedSince>>,
	shelf: string[]
): Promise<Outlook> {
	const [measured, events, bands, system] = await Promise.all([
		measuredIn(asker, systemId),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId),
		systemFor(asker, systemId)
	]);
	const byParameter = await latestReadings(asker, systemId, measured, MOST_NEWEST);
	const done = events.map(dated);
	const follows = system.school !== OWN_BANDS;
	const chosen = targets({ school: system.school, phase: system.phase, own: bands });
	const all = chosen.ok ? chosen.value.targets : {};
	// Whoever follows no school is judged by their own bands alone.
	const wanted = Object.fromEntries(Object.entries(all).filter(([parameter]) => follows || bands[parameter]));
	const trends: Record<string, TrendInShort> = {};
	const known: JudgeRequest['parameters'] = {};
	const last: Record<string, Date> = {};
	const next: Record<string, { at: Date; why: LookAgain }> = {};
	const requests = Object.entries(byParameter).flatMap(([parameter, all]) => {
		const newest = counting(all);
		return newest.length
			? [
					requestOf(parameter, newest[0]!.unit, newest.map(pointOf).reverse(), done, {
						band: bands[parameter],
						phase: system.phase
					})
				]
			: [];
	});
	const { results, suspects } = await estimatesOf(requests);
	for (const [parameter, all] of Object.entries(byParameter)) {
		const newest = counting(all);
		// What was just read is not asked for again, by whichever chart.
		if (all[0]) last[parameter] = new Date(all[0].takenAt);
		const result = results[parameter];
		if (!result) {
			if (all[0]) known[parameter] = notYetKnown(all[0]);
			continue;
		}
		const { path: _path, offsets: _offsets, ...short } = result;
		trends[parameter] = short;
		const why = whyLook(result, newest.length - 1, bands[parameter]);
		const before = newest[1] && Date.parse(newest[1].takenAt);
		const again = isAgainTonight(parameter, why, before, now().getTime());
		next[parameter] = { at: again ? now() : new Date(result.nextTest), why };
		known[parameter] = {
			unit: result.unit,
			now: result.now,
			netPerDay: result.netPerDay,
			usePerDay: result.usePerDay,
			leavesBand: result.leavesBand,
			moved: result.moved,
			odd: [
				...result.odd,
				...(suspects[parameter] ?? []).filter(({ index }) => !result.odd.some((o) => o.index === index))
			],
			recorded: recordedOf(parameter, done, result.now.value),
			tests: newest.map(pointOf).reverse().map(asJudgedTest)
		};
	}
	const due = dueTests(
		system.phase,
		last,
		next,
		[...triggersOf(done), ...packs.map((p) => ({ ...p, kind: 'new pack' as const }))],
		now(),
		shelf
	);
	// A device's clock may be a little ahead: what it took a moment from now counts all the same.
	const newest = Object.values(last).map((at) => at.getTime());
	const judged = judge({
		now: new Date(Math.max(now().getTime(), ...newest)).toISOString(),
		phase: system.phase,
		targets: wanted,
		parameters: known
	});
	return {
		trends,
		due: due.map((d) => ({ ...d, at: d.at.toISOString() })),
		judgements: judged.ok ? judged.value.judgements : []
	};
}

/** What written doses and water changes did to a parameter at about this level. */
const recordedOf = (parameter: string, done: DatedEvent[], level: number) =>
	inputsFor(parameter, done).flatMap((e) =>
		e.kind === 'dose'
			? [{ at: e.at, change: e.change }]
			: e.kind === 'water-change'
				? [{ at: e.at, change: e.fraction * (e.newWater - level) }]
				: []
	);

/** The level of each parameter now. */
export const levelsOf = (trends: Record<string, TrendInShort>) =>
	Object.fromEntries(Object.entries(trends).map(([parameter, trend]) => [parameter, trend.now]));

/** A parameter that was read only by charts that are not the keeper's. */
const notYetKnown = (r: Reading): JudgeRequest['parameters'][string] => ({
	unit: r.unit,
	now: { value: r.value ?? 0, standardDeviation: r.standardUncertainty ?? 0 },
	tests: [{ ...asJudgedTest(pointOf(r)), ownChart: false }]
});

const asJudgedTest = (r: StoredPoint): JudgeRequest['parameters'][string]['tests'][number] => {
	const at = new Date(r.at).toISOString();
	const seen = asTrendReading(r);
	if ('value' in seen)
		return { at, value: seen.value, standardUncertainty: seen.standardUncertainty, method: r.methodId };
	const { method: _method, trueness: _trueness, ...said } = seen;
	return { ...said, method: r.methodId };
};
