import { v5 as uuidOf } from 'uuid';
import { readLabSheet, type LabResult, type LabSheet } from '../../../core/formats';
import type { Method } from '../../../core/instruments';
import { bad, good, type Outcome } from '../../../core/base';
import { possibleRange } from '../../../core/quantities';
import { parameterOf } from '../../../core/catalogue';
import { COVERAGE_95 } from '../../../core/statistics';
import type { TakenLabSheet } from '../../api/labs';
import { rowsOf } from '../../sheets/parse';
import { now } from '../clock';
import { mayUse, type Asker } from '../identity/asker';
import { saveMethod } from './methods';
import { readingFor, saveReading } from './readings';
import { sourcesOf, systemFor } from './systems';

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
	const sampleId = sampleOf(systemId, { lab: sheet.lab, sample: sheet.sample ?? drawn });
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

/** The id of a sample that a lab has, by its name there. */
export const sampleOf = (systemId: string, { lab, sample }: { lab: string; sample: string }): string =>
	uuidOf(`lab ${lab.toLowerCase()} ${sample}`, systemId);
