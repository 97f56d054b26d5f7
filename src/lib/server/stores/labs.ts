import { error } from '@sveltejs/kit';
import { and, desc, eq } from 'drizzle-orm';
import { v5 as uuidOf } from 'uuid';
import { readLabSheet, type LabResult, type LabSheet } from '../../../core/formats';
import type { Method } from '../../../core/methods';
import { DAY, bad, good, type Outcome } from '../../../core/base';
import { possibleRange } from '../../../core/quantities';
import { parameterOf, isSolute } from '../../../core/catalogue';
import { SAME_WATER } from '../../../core/quality';
import { SIMULATED_LAB, simulatedLabSheet } from '../../../core/simulate';
import { COVERAGE_95, normalBelow } from '../../../core/statistics';
import type { WaterEvent } from '../../../core/trend';
import type { Labs, TakenLabSheet } from '../../api/labs';
import { rowsOf } from '../../sheets/parse';
import { now } from '../clock';
import { database } from '../db/connection';
import { methodVersion, reading, revision } from '../db/schema';
import { mayUse, ofTank, SHORTLY, type Asker } from '../identity/asker';
import { eventsOfTank } from './events';
import { saveMethod } from './methods';
import { isLab, labOf } from './proof';
import { latestReadings, measuredIn, readingFor, saveReading } from './readings';
import { sourcesOf, systemFor } from './systems';

/** Its sheet comes back so long after the water was drawn, ms. */
const UNDER_WAY = 5 * DAY;
/** Of a lab that says no error: what good kits promise, as any value from elsewhere. */
const UNSAID = 0.05;

/**
 * Takes in a lab's sheet: each answer is a reading by that lab, a method like any other. The same sheet again adds nothing. Problems: no
 * lab's sheet, an answer that cannot be.
 */
export async function takeLabSheet(
	asker: Asker,
	systemId: string,
	text: string
): Promise<Outcome<TakenLabSheet>> {
	await mayUse(asker, systemId, 'write');
	const { timeZone } = await systemFor(asker, systemId);
	const read = sheetIn(text, { timeZone, now: now().getTime() });
	if (!read.ok) return read;
	const sheet = read.value;
	const tank = (await sourcesOf(asker, systemId)).find((s) => s.kind === 'tank')!;
	const drawn = new Date(sheet.drawn).toISOString();
	const sampleId = uuidOf(`lab ${sheet.lab.toLowerCase()} ${sheet.sample ?? drawn}`, systemId);
	const taken: TakenLabSheet = {
		lab: sheet.lab,
		sample: sheet.sample,
		drawn,
		readings: [],
		refused: sheet.refused.map(({ row, reason }) => ({ line: row + 1, reason }))
	};
	for (const result of sheet.results) {
		const id = uuidOf(result.parameter, sampleId);
		taken.readings.push({ id, parameter: result.parameter });
		if (await readingFor(asker, id)) continue;
		const methodId = uuidOf(`lab ${sheet.lab.toLowerCase()} ${result.parameter}`, asker.userId);
		const method = await saveMethod(asker, methodId, { profile: methodOf(sheet, result) }, now());
		if (!method.ok) return method;
		const saved = await saveReading(asker, id, {
			sourceId: tank.id,
			sampleId,
			takenAt: drawn,
			methodVersionId: method.value.versionId,
			reading: result.raw
		});
		if (!saved.ok)
			return bad('/text', `${parameterOf(result.parameter)?.title}: ${saved.problems[0]?.message ?? ''}`);
	}
	return good(taken);
}

/** By whichever mark its cells are parted. */
function sheetIn(text: string, at: { timeZone: string; now: number }): Outcome<LabSheet> {
	const tries = ([',', ';', '\t'] as const).map((mark) => readLabSheet(rowsOf(text, mark), at));
	const most = (o: Outcome<LabSheet>) => (o.ok ? 1 + o.value.results.length : 0);
	return tries.reduce((best, o) => (most(o) > most(best) ? o : best));
}

/** A lab's way with one parameter: a number with the error its sheet says, nearly all of which stays with the lab. */
function methodOf({ lab }: LabSheet, { parameter, half, raw }: LabResult): Method {
	const { title = parameter, unit = '' } = parameterOf(parameter) ?? {};
	const shown = 'shown' in raw ? Math.abs(raw.shown) : 0;
	const [low, high] = possibleRange(parameter);
	const slug = lab
		.toLowerCase()
		.replaceAll(/[^a-z0-9]+/g, '-')
		.replaceAll(/^-|-$/g, '')
		.slice(0, 30);
	return {
		format: 'tevrik.method/1',
		id: `lab-${slug || 'x'}-${parameter}`.slice(0, 60),
		name: `${title}, ${lab}`,
		parameter,
		unit,
		reads: 'display',
		display: {
			form: 'lab',
			unit,
			// A tenth of its error changes from sample to sample as far as anyone is told.
			resolution: Number(((half ?? UNSAID * shown) / 10 || 1e-3).toPrecision(2)),
			// What a maker promises is taken as limits (rectangular); a lab says half of a 95 % interval.
			...(half === null
				? { relative: UNSAID }
				: { absolute: Number(((half / COVERAGE_95) * Math.sqrt(3)).toPrecision(6)) }),
			range: [low, Math.min(high, 1e6)]
		}
	};
}

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

const sampleOf = (systemId: string, { lab, sample }: Extract<WaterEvent, { kind: 'posted' }>): string =>
	uuidOf(`lab ${lab.toLowerCase()} ${sample}`, systemId);
const backOn = (drawn: string): string => new Date(Date.parse(drawn) + UNDER_WAY).toISOString();

/** The sheet the simulated lab sends of a sample that was posted to it. Problems: it is not back yet, or was posted elsewhere. */
export async function simulatedSheet(asker: Asker, systemId: string, id: string): Promise<Outcome<string>> {
	await mayUse(asker, systemId, 'read');
	const sent = (await eventsOfTank(asker, systemId)).find((e) => e.id === id);
	if (sent?.event.kind !== 'posted') error(404, 'No such sample was posted.');
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
