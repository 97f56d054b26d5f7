import { validate } from 'uuid';
import { type Method } from '$core/instruments';
import { hasOwnChart } from '$core/methods';
import { nameInSentence, titleOf } from '$core/catalogue';
import type { Judgement } from '$core/targets';
import type { TubeData } from '$lib/api/rack';
import type { Reading } from '$lib/api/readings';
import type { TrendInShort } from '$lib/api/trends';
import * as say from '$messages/rack';
import { methodsFor } from '$lib/server/stores/methods';
import { latestReadings, measuredIn } from '$lib/server/stores/readings';
import { bandsOf, systemFor } from '$lib/server/stores/systems';
import { outlookShown } from '$lib/server/answers/outlook';
import { sameWaterHref } from '$lib/ui/bench/same-water';
import { bandsFor, readingFor, trendFor } from '$lib/ui/mine';
import { daysAgo } from '$lib/ui/when';
import { dueInWords, dueOnInWords, headingInWords } from '$lib/ui/wording';
import { tonightInWords } from '$lib/ui/words/tonight';
import { provedInWords } from '$lib/ui/words/checks';
import { judgementInWords, together } from '$lib/ui/words/judgements';
import type { PageServerLoad } from './$types';

/** As many as a tube's trail shows, and days of forecast beside it. */
const TRAIL = 10;
const AHEAD = 14;
/** Reasons shown at once; more would be a report. */
const MOST_REASONS = 5;
/** Tests that are listed. */
const MOST_DUE = 8;

/**
 * A rack in words and pictures' numbers. The words are found here: a browser's first formatter of a zone takes it tens of milliseconds,
 * and a rack that is looked at needs no other.
 */
export const load: PageServerLoad = async ({ params, locals: { asker, at }, url }) => {
	const now = at.toISOString();
	const own = (await methodsFor(asker)).filter((m) => m.own);
	const rack = async (id: string) => {
		const [measured, { timeZone }] = await Promise.all([measuredIn(asker, id), systemFor(asker, id)]);
		const [latest, { trends, due, judgements, asOf }] = await Promise.all([
			latestReadings(asker, id, measured, TRAIL),
			outlookShown(asker, id)
		]);
		const tubes = Object.entries(latest).flatMap(([parameter, its]) =>
			its.length
				? [
						[
							parameter,
							tubeOf(id, its.map(readingFor), trendOf(parameter, trends[parameter]), now, timeZone)
						] as const
					]
				: []
		);
		return {
			asOf,
			tubes: Object.fromEntries(tubes),
			dueNow: due.filter((d) => d.now).length,
			due: [...due.filter((d) => d.now), ...due.filter((d) => !d.now)].slice(0, MOST_DUE).map((d) => ({
				parameter: d.parameter,
				why: d.now ? dueInWords(d.why, now, timeZone) : dueOnInWords(d, now, timeZone)
			})),
			// Where nothing is known, nothing is said to be fine.
			tonight: asOf === null ? '' : tonightInWords(due, judgements, now, timeZone),
			judgements: together(judgements)
				.slice(0, MOST_REASONS)
				.map((j) => ({
					...judgementInWords(j, now, timeZone),
					kind: j.kind,
					parameter: j.parameter,
					...whatHelps(id, j, latest[j.parameter] ?? []),
					...tellsOf(id, j, latest[j.parameter] ?? [], own)
				}))
		};
	};
	const other = url.searchParams.get('beside');
	const beside =
		other && validate(other) && other !== params.system
			? {
					...(await rack(other)),
					system: { id: other, ...(await systemFor(asker, other)) },
					bands: bandsFor(await bandsOf(asker, other))
				}
			: null;
	return { ...(await rack(params.system)), beside, kits: own.length };
};

/** A trend as this person counts it. */
const trendOf = (parameter: string, trend: TrendInShort | undefined) => trend && trendFor(parameter, trend);

/** The one thing to do about a judgement: where, and what it is called. */
function whatHelps(system: string, { parameter, helps, numbers }: Judgement, latest: Reading[]) {
	const kit = numbers['reason'] === 'chart' ? latest[0]?.methodId : undefined;
	if (kit) return { href: `/s/${system}/shelf/${kit}`, act: say.enterChart() };
	return helps === 'test'
		? {
				href: `/s/${system}/bench/one?of=${parameter}`,
				act: say.measureIt({ parameter: nameInSentence(parameter) })
			}
		: { href: `/s/${system}/trends?of=${parameter}`, act: say.overTime({ Parameter: titleOf(parameter) }) };
}

/** Where a reading is odd, or the level moved, the same water by two kits tells: the one used last, and another on the shelf. */
function tellsOf(
	system: string,
	{ kind, parameter }: Judgement,
	latest: Reading[],
	own: { id: string; profile: Method }[]
): { tells?: { href: string; act: string } } {
	if (kind !== 'odd' && kind !== 'moved') return {};
	const used = latest.filter((r) => r.ownChart).map((r) => r.methodId);
	const shelf = own.filter((m) => m.profile.parameter === parameter && hasOwnChart(m.profile));
	const kits = [...new Set([...used, ...shelf.map((m) => m.id)])]
		.filter((id) => shelf.some((m) => m.id === id))
		.slice(0, 2);
	return kits.length
		? {
				tells: {
					href: sameWaterHref(system, kits),
					act: kits.length > 1 ? say.compareKits() : say.testTwice()
				}
			}
		: {};
}

/** Of readings, newest first, and what follows from them as much as a tube shows. */
function tubeOf(
	system: string,
	readings: Reading[],
	trend: TrendInShort | undefined,
	now: string,
	timeZone: string
): TubeData {
	const { parameter } = readings[0]!;
	// What counts stands in the glass; where nothing does, what was read, and that it does not.
	const counting = readings.filter((r) => r.ownChart);
	const shown = counting[0] ?? readings[0]!;
	const { takenAt, qualifier, value, standardUncertainty, interval, unit } = shown;
	return {
		last: { qualifier, value, standardUncertainty, interval, unit },
		ago: daysAgo(takenAt, now, timeZone),
		...(shown.proof?.takenOff === undefined ? {} : { corrected: provedInWords(parameter, shown.proof) }),
		...(shown.ownChart ? {} : { notYours: `/s/${system}/shelf/${shown.methodId}` }),
		trail: counting
			.flatMap((r): TubeData['trail'] => (r.value === null ? [] : [[Date.parse(r.takenAt), drawn(r.value)]]))
			.reverse(),
		...(trend ? { trend: headingOf(parameter, trend, now, timeZone) } : {})
	};
}

const headingOf = (
	parameter: string,
	trend: TrendInShort,
	now: string,
	timeZone: string
): NonNullable<TubeData['trend']> => ({
	now: { value: trend.now.value, standardDeviation: trend.now.standardDeviation },
	heading: headingInWords(parameter, trend, now, timeZone),
	ahead: trend.forecast.slice(0, AHEAD).map(({ mean, sd }) => [drawn(mean), drawn(sd)])
});

/** As many digits as a picture shows. */
const drawn = (x: number): number => Number(x.toPrecision(5));
