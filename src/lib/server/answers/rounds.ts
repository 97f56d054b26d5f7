import { urgencyOf, type Judgement } from '../../../core/targets';
import type { Asker } from '../identity/asker';
import { systemsOf } from '../stores/systems';
import { outlookShown } from './outlook';

/** How one tank fares, for whoever looks after many. */
export interface Stop {
	id: string;
	/** What is worst; nothing where all is well. */
	worst: Judgement | null;
	/** How many things deserve attention. */
	concerns: number;
	/** Parameters that are due now. */
	due: string[];
	/** Its levels are not of now: since when they are known, or null where they are not. */
	asOf?: string | null;
	/** The smaller, the sooner it wants a look. */
	order: number;
}

/** So many tanks are looked at together: while one's models are made, another's readings are fetched. */
const AT_ONCE = 4;

/** The asker's tanks, the worrying ones first. */
export async function roundOf(asker: Asker): Promise<Stop[]> {
	const stops: Stop[] = [];
	const look = async (id: string) => {
		const { judgements, due, ...asOf } = await outlookShown(asker, id);
		const dueNow = due.filter((d) => d.now).map((d) => d.parameter);
		const { worries, order } = urgencyOf(judgements, dueNow.length);
		stops.push({
			id,
			...('asOf' in asOf ? { asOf: asOf.asOf } : {}),
			worst: worries[0] ?? null,
			concerns: worries.length,
			due: dueNow,
			order
		});
	};
	const tanks = await systemsOf(asker);
	for (let next = 0; next < tanks.length; next += AT_ONCE) {
		await Promise.all(tanks.slice(next, next + AT_ONCE).map(({ id }) => look(id)));
		// Between them whoever else waits is served.
		await new Promise((done) => setImmediate(done));
	}
	return stops.sort((a, b) => a.order - b.order);
}
