import type { Book } from '../../../core/formats';
import { checkMethod, expressedIn } from '../../../core/methods';
import type { Problem } from '../../../core/base';
import { parameterOf } from '../../../core/catalogue';
import { isTimeZone } from '../stores/systems';

/** What no schema can say: that a book's parts fit together. */
export function flawsOf(book: Book): Problem[] {
	const flaws: Problem[] = [];
	const flaw: Flaw = (path, message) => void (flaws.length < 20 && flaws.push({ path, message }));
	if (!isTimeZone(book.system.timeZone)) flaw('/system/timeZone', 'is not a time zone');
	if (book.sources.filter((s) => s.kind === 'tank').length !== 1)
		flaw('/sources', 'must hold the tank itself, once');
	const sources = new Set(book.sources.map((s) => s.id));
	const profiles = new Map(book.methods.map((m) => [m.versionId, m.profile]));
	for (const [i, { profile }] of book.methods.entries())
		for (const f of checkMethod(profile)) flaw(`/methods/${i}/profile${f.path}`, f.message);
	readingsFit(book, sources, profiles, flaw);
	runsFit(book, sources, profiles, flaw);
	const readings = new Set(book.readings.map((r) => r.id));
	const photos = new Set<string>();
	for (const [i, p] of (book.photos ?? []).entries()) {
		if (photos.has(p.id)) flaw(`/photos/${i}/id`, 'stands in the file twice');
		photos.add(p.id);
		if (!readings.has(p.readingId)) flaw(`/photos/${i}/readingId`, 'is not among the readings');
	}
	return flaws;
}

type Flaw = (path: string, message: string) => void;
type Profiles = ReadonlyMap<string, Book['methods'][number]['profile']>;

/** Each reading once, of a water and a session of the book, by its methods, of one parameter in one of its units. */
function readingsFit(book: Book, sources: ReadonlySet<string>, profiles: Profiles, flaw: Flaw): void {
	const runs = new Set(book.runs.map((r) => r.id));
	const readings = new Set<string>();
	const samples = new Map<string, string>();
	for (const [i, r] of book.readings.entries()) {
		const place = `/readings/${i}`;
		if (readings.has(r.id)) flaw(`${place}/id`, 'stands in the file twice');
		readings.add(r.id);
		if (!sources.has(r.sourceId)) flaw(`${place}/sourceId`, 'is not among the sources');
		if ((samples.get(r.sampleId) ?? r.sourceId) !== r.sourceId)
			flaw(`${place}/sampleId`, 'is of two waters at once');
		samples.set(r.sampleId, r.sourceId);
		if (r.runId !== undefined && !runs.has(r.runId)) flaw(`${place}/runId`, 'is not among the evenings');
		const measured = r.revisions.map((s) => profiles.get(s.methodVersionId)?.parameter);
		if (measured.includes(undefined)) flaw(`${place}/revisions`, 'name a method that is not in the file');
		else if (new Set(measured).size > 1) flaw(`${place}/revisions`, 'are of more than one parameter');
		for (const [j, s] of r.revisions.entries()) {
			const profile = profiles.get(s.methodVersionId);
			const own = profile && parameterOf(profile.parameter);
			if (own && !canExpress(s.result, own.id, own.unit))
				flaw(`${place}/revisions/${j}/result/unit`, `is no unit of ${own.id}`);
		}
	}
}

/** Each session's tests are of a water of the book, by its methods. */
function runsFit(book: Book, sources: ReadonlySet<string>, profiles: Profiles, flaw: Flaw): void {
	for (const [i, r] of book.runs.entries()) {
		if (!sources.has(r.sourceId)) flaw(`/runs/${i}/sourceId`, 'is not among the sources');
		for (const e of r.events)
			for (const t of e.kind === 'begin' ? e.tests : e.kind === 'add' ? [e.added] : []) {
				if (t.sourceId !== undefined && !sources.has(t.sourceId))
					flaw(`/runs/${i}/events`, 'test a water that is not among the sources');
				if (!profiles.has(t.methodVersionId))
					flaw(`/runs/${i}/events`, 'name a method that is not in the file');
			}
	}
}
const canExpress = (result: Parameters<typeof expressedIn>[0], parameter: string, unit: string): boolean =>
	expressedIn(result, parameter, unit).unit === unit;
