import { validate } from 'uuid';
import type { TubeData } from '$lib/api/rack';
import type { Reading } from '$lib/api/readings';
import type { TrendInShort } from '$lib/api/trends';
import { latestReadings, measuredIn } from '$lib/server/stores/readings';
import { bandsOf, systemFor } from '$lib/server/stores/systems';
import { outlookOf } from '$lib/server/stores/trends';
import type { PageServerLoad } from './$types';

/** As many as a tube's trail shows, and days of forecast beside it. */
const TRAIL = 10;
const AHEAD = 14;

export const load: PageServerLoad = async ({ params, locals: { asker }, url }) => {
	const rack = async (id: string) => {
		const measured = await measuredIn(asker, id);
		const [latest, { trends, due, judgements }] = await Promise.all([
			latestReadings(asker, id, measured, TRAIL),
			outlookOf(asker, id)
		]);
		const tubes = Object.entries(latest).flatMap(([parameter, its]) =>
			its.length ? [[parameter, tubeOf(its, trends[parameter])] as const] : []
		);
		return { tubes: Object.fromEntries(tubes), due, judgements };
	};
	const other = url.searchParams.get('beside');
	const beside =
		other && validate(other) && other !== params.system
			? {
					...(await rack(other)),
					system: { id: other, ...(await systemFor(asker, other)) },
					bands: await bandsOf(asker, other)
				}
			: null;
	return { ...(await rack(params.system)), beside };
};

/** Of readings, newest first, and what follows from them as much as a tube shows. */
function tubeOf(readings: Reading[], trend: TrendInShort | undefined): TubeData {
	const { takenAt, qualifier, value, standardUncertainty, interval, unit } = readings[0]!;
	return {
		last: { takenAt, qualifier, value, standardUncertainty, interval, unit },
		trail: readings
			.flatMap((r): TubeData['trail'] => (r.value === null ? [] : [[Date.parse(r.takenAt), drawn(r.value)]]))
			.reverse(),
		...(trend ? { trend: headingOf(trend) } : {})
	};
}

const headingOf = ({
	now: { value, standardDeviation },
	netPerDay,
	verdict,
	leavesBand,
	moved,
	forecast
}: TrendInShort): NonNullable<TubeData['trend']> => ({
	now: { value, standardDeviation },
	netPerDay,
	verdict,
	leavesBand,
	moved,
	ahead: forecast.slice(0, AHEAD).map(({ mean, sd }) => [drawn(mean), drawn(sd)])
});

/** As many digits as a picture shows. */
const drawn = (x: number): number => Number(x.toPrecision(5));
