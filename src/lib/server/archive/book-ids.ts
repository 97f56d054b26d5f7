import type { Book } from '../../../core/formats';
import type { RunEvent } from '../../../core/run';

type IdOf = (old: string) => string;

/** A book under other ids: every field that is one, and nothing that only looks like one. */
export function withIds(book: Book, idOf: IdOf): Book {
	const maybe = <K extends string>(key: K, id: string | undefined) =>
		(id === undefined ? {} : { [key]: idOf(id) }) as Partial<Record<K, string>>;
	return {
		...book,
		system: { ...book.system, id: idOf(book.system.id) },
		sources: book.sources.map((s) => ({ ...s, id: idOf(s.id) })),
		methods: book.methods.map((m) => ({ ...m, versionId: idOf(m.versionId), methodId: idOf(m.methodId) })),
		readings: book.readings.map((r) => ({
			...r,
			id: idOf(r.id),
			sampleId: idOf(r.sampleId),
			sourceId: idOf(r.sourceId),
			...maybe('runId', r.runId),
			revisions: r.revisions.map((s) => ({
				...s,
				methodVersionId: idOf(s.methodVersionId),
				...maybe('takenAwayId', s.takenAwayId)
			}))
		})),
		runs: book.runs.map((r) => ({
			...r,
			id: idOf(r.id),
			sourceId: idOf(r.sourceId),
			events: r.events.map((e) => eventWithIds(e, idOf))
		})),
		...(book.photos
			? { photos: book.photos.map((p) => ({ ...p, id: idOf(p.id), readingId: idOf(p.readingId) })) }
			: {}),
		events: book.events.map((e) => ({
			...e,
			id: idOf(e.id),
			event: e.event.kind === 'correction' ? { ...e.event, methodId: idOf(e.event.methodId) } : e.event
		}))
	};
}

/** Names of tests are a run's own and stay. */
function eventWithIds(event: RunEvent, idOf: IdOf): RunEvent {
	const id = idOf(event.id);
	const test = <T extends { methodVersionId: string; sourceId?: string }>(t: T): T => ({
		...t,
		methodVersionId: idOf(t.methodVersionId),
		...(t.sourceId === undefined ? {} : { sourceId: idOf(t.sourceId) })
	});
	switch (event.kind) {
		case 'begin':
			return { ...event, id, tests: event.tests.map(test) };
		case 'add':
			return { ...event, id, added: test(event.added) };
		case 'undo':
			return { ...event, id, of: idOf(event.of) };
		case 'read': {
			const { taken } = event;
			const { readingId, takenAwayId } = taken;
			return {
				...event,
				id,
				taken: {
					...taken,
					readingId: idOf(readingId),
					...(takenAwayId === undefined ? {} : { takenAwayId: idOf(takenAwayId) })
				}
			};
		}
		default:
			return { ...event, id };
	}
}
