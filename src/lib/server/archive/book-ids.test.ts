import { expect, it } from 'vitest';
import type { Book } from '../../../core/formats';
import { withIds } from './book-ids';

const ID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;
const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const at = '2026-05-01T19:00:00.000Z';
const said = { at, by: 'Ada', methodVersionId: id(4), raw: { left: 0.5 }, voided: false };
const test = { id: id(90), methodVersionId: id(4), sourceId: id(2), vial: 1 };

/** With an id in every place that can hold one, a note that is one, and a test of a run that is called like one. */
const book = {
	format: 'tevrik.book/1',
	system: { id: id(1) },
	sources: [{ id: id(2), kind: 'tank', name: id(1) }],
	methods: [{ versionId: id(4), methodId: id(3), version: 1 }],
	readings: [
		{
			id: id(5),
			sampleId: id(6),
			sourceId: id(2),
			runId: id(7),
			takenAt: at,
			revisions: [{ ...said, takenAwayId: id(8), reason: id(5) }]
		}
	],
	runs: [
		{
			id: id(7),
			sourceId: id(2),
			startedAt: at,
			events: [
				{ id: id(10), at, kind: 'begin', tests: [test], people: 1, order: [id(90)], save: 'each' },
				{ id: id(11), at, kind: 'add', added: test },
				{
					id: id(12),
					at,
					kind: 'read',
					test: id(90),
					step: 0,
					taken: { readingId: id(5), takenAwayId: id(8) }
				},
				{ id: id(13), at, kind: 'undo', of: id(12) },
				{ id: id(14), at, kind: 'finish' }
			]
		}
	],
	events: [
		{ id: id(15), at, event: { kind: 'note', text: id(5) }, by: id(1), createdAt: at, voided: false },
		{
			id: id(16),
			at,
			event: { kind: 'correction', parameter: 'calcium', methodId: id(3), method: 'drops', takenOff: 9 },
			by: 'Ada',
			createdAt: at,
			voided: false
		}
	]
} as unknown as Book;

it('gives every id another, and leaves words alone that only look like one', () => {
	const copy = withIds(book, (old) => `new ${old.slice(-2)}`);
	// What is left of the old ids: names, reasons, notes, and what a run calls its tests.
	const left = JSON.stringify(copy).match(ID)!;
	expect(left.sort()).toEqual([id(1), id(1), id(5), id(5), id(90), id(90), id(90), id(90)].sort());
	expect(copy.runs[0]!.events[3]).toMatchObject({ id: 'new 13', of: 'new 12' });
	expect(copy.readings[0]!.revisions[0]!.takenAwayId).toBe('new 08');
	expect(withIds(book, (old) => old)).toEqual(book);
});
