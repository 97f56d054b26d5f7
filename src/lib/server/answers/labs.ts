import { and, desc, eq } from 'drizzle-orm';
import { DAY, bad, good, type Outcome } from '../../../core/base';
import { isSolute } from '../../../core/catalogue';
import { SAME_WATER } from '../../../core/quality';
import { SIMULATED_LAB, simulatedLabSheet } from '../../../core/simulate';
import { normalBelow } from '../../../core/statistics';
import type { Labs } from '../../api/labs';
import { now } from '../clock';
import { database } from '../db/connection';
import { methodVersion, reading, revision } from '../db/schema';
import { mayUse, ofTank, SHORTLY, type Asker } from '../identity/asker';
import { eventsOfTank } from '../stores/events';
import { isLab, labOf } from '../stores/checks';
import { latestReadings, measuredIn } from '../stores/readings';
import { sampleOf } from '../stores/labs';
import { refuse } from '../refuse';

/** Its sheet comes back so long after the water was drawn, ms. */
const UNDER_WAY = 5 * DAY;

/** What labs have said of a tank's water, beside what kits said of it within a few hours; and what is on its way. */
export async function labsOf(asker: Asker, systemId: string): Promise<Labs> {
	await mayUse(asker, systemId, 'read');
	return ofTank(asker, systemId, ['labs'], () => findLabs(asker, systemId), SHORTLY);
}

/** As many answers as anyone looks back on. */
const MOST = 300;

async function findLabs(asker: Asker, systemId: string): Promise<Labs> {
	const [events, measured] = await Promise.all([eventsOfTank(asker, systemId), measuredIn(asker, systemId)]);
	const rows = await database()
		.select({
			sampleId: reading.sampleId,
			parameter: reading.parameter,
			at: reading.takenAt,
			name: methodVersion.name,
			unit: revision.unit,
			value: revision.value,
			standardUncertainty: revision.standardUncertainty
		})
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.where(and(eq(reading.systemId, systemId), eq(revision.voided, false), isLab))
		.orderBy(desc(reading.takenAt), reading.parameter)
		.limit(MOST);
	const latest = await latestReadings(asker, systemId, measured, MOST);
	const answers = [...new Set(rows.map((r) => r.sampleId))].map((id) => {
		const its = rows.filter((r) => r.sampleId === id);
		const [first] = its;
		return {
			id,
			lab: labOf(first!.name),
			drawn: first!.at.toISOString(),
			results: its.flatMap(({ parameter, unit, value, standardUncertainty, at }) =>
				value === null || !standardUncertainty
					? []
					: [
							{
								parameter,
								unit,
								value,
								standardUncertainty,
								kits: (latest[parameter] ?? []).flatMap((r) => {
									const near = Math.abs(Date.parse(r.takenAt) - at.getTime()) <= SAME_WATER;
									const lab = rows.some((o) => o.name === r.methodName);
									if (!near || lab || !r.ownChart || r.value === null || !r.standardUncertainty) return [];
									const z = (r.value - value) / Math.hypot(r.standardUncertainty, standardUncertainty);
									return [
										{
											name: r.methodName,
											value: r.value,
											standardUncertainty: r.standardUncertainty,
											chance: 2 * normalBelow(-Math.abs(z))
										}
									];
								})
							}
						]
			)
		};
	});
	const posted = events.flatMap(({ id, at, event }) =>
		event.kind === 'posted' && !answers.some((a) => a.id === sampleOf(systemId, event))
			? [{ id, lab: event.lab, sample: event.sample, drawn: at, back: backOn(at) }]
			: []
	);
	return { answers, posted: posted.reverse() };
}

const backOn = (drawn: string): string => new Date(Date.parse(drawn) + UNDER_WAY).toISOString();

/** The sheet the simulated lab sends of a sample that was posted to it. Problems: it is not back yet, or was posted elsewhere. */
export async function simulatedSheet(asker: Asker, systemId: string, id: string): Promise<Outcome<string>> {
	await mayUse(asker, systemId, 'read');
	const sent = (await eventsOfTank(asker, systemId)).find((e) => e.id === id);
	if (sent?.event.kind !== 'posted') refuse(404, 'No such sample was posted.');
	const { lab, sample } = sent.event;
	if (lab !== SIMULATED_LAB) return bad('', `was posted to ${lab}: its sheet comes from there`);
	if (now().getTime() < Date.parse(backOn(sent.at)))
		return bad('', `is still at the lab: its sheet is back on ${backOn(sent.at).slice(0, 10)}`);
	// What the water had then is what is known of it: what was read last before it was drawn. Warmth and acidity do not survive the post.
	const latest = await latestReadings(asker, systemId, await measuredIn(asker, systemId), MOST);
	const levels = Object.entries(latest).flatMap(([parameter, its]) => {
		const then = its.find((r) => r.ownChart && r.value !== null && r.takenAt <= sent.at);
		return then && isSolute(parameter) ? [[parameter, then.value!] as const] : [];
	});
	const seed = Number.parseInt(id.replaceAll('-', '').slice(-8), 16);
	return good(simulatedLabSheet({ lab, sample, drawn: sent.at, levels: Object.fromEntries(levels), seed }));
}
