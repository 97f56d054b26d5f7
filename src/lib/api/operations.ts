import Type, { type TSchema } from 'typebox';
import { CALCULATIONS } from '../../core/calculations';
import { Supplement } from '../../core/adjust';
import { Method } from '../../core/instruments';
import { RunEvent } from '../../core/run';
import { Book } from '../../core/formats';
import { CALCULATION_EXAMPLES, SODA } from './calculation-examples';
import { BookEvent, BookLine, BookReading, ReadingInFull } from './book';
import { SaveEvent, TankEvent } from './events';
import { Habits } from './habits';
import { ImportProgress, TakeIn, TakenFile } from './imports';
import { KnownMethod, SaveMethod, SavePack, SavedMethod } from './methods';
import { JsonSchema, Saved, exact, id, moment, next } from './parts';
import { Photo, SavePhoto } from './photos';
import { DoneStep, PlanQuery, Planned, SavePlan } from './plans';
import { KitChecks, KitChecksQuery } from './kit-checks';
import { SaveSupplement, ShelfSupplement } from './supplements';
import { BookQuery } from './queries';
import { CorrectReading, Reading, SaveReading, VoidReading, VoidReadings } from './readings';
import { Labs, TakeLabSheet, TakenLabSheet } from './labs';
import { KnownEvent, NewRun } from './runs';
import { ChangeSystem, NewSystem, SaveSource, Tank, TankInFull } from './systems';
import { WatersBeside, WatersQuery } from './waters';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

const Text = Type.String();
const Bytes = Type.String({ format: 'binary' });

/** One thing the API does. This list is what `/api/v1/openapi.json` and its readable page are made from. */
export interface Operation {
	method: 'get' | 'put' | 'post' | 'patch' | 'delete';
	/** Below /api/v1; names in braces are ids. */
	path: string;
	group:
		| 'Calculations'
		| 'People'
		| 'Tanks'
		| 'Readings'
		| 'Events'
		| 'Methods'
		| 'Adjust'
		| 'Test sessions'
		| 'Files';
	summary: string;
	/** Answers whoever asks, without an account. */
	open?: true;
	query?: TSchema & { properties: Record<string, TSchema> };
	body?: TSchema;
	/** What a body is sent as, where it is not JSON. */
	bodyType?: 'multipart/form-data';
	/** Needs an Idempotency-Key. */
	once?: true;
	/** How often it may be asked has a limit. */
	shared?: true;
	/** What the answer holds; of lines of JSON, what each does. */
	result: TSchema;
	/** What the answer is, where it is not JSON. */
	answers?: 'text/csv' | 'application/x-ndjson' | 'image/jpeg' | typeof XLSX;
	/** A body that is accepted; {system}, {source}, {methodVersion}, {method}, {reading}, {import}, {now} and {new} stand for ids and moments. */
	example?: unknown;
}

const example = {
	reading: {
		sourceId: '{source}',
		sampleId: '{new}',
		takenAt: '{now}',
		methodVersionId: '{methodVersion}',
		reading: { left: 0.48 }
	},
	event: { systemId: '{system}', at: '{now}', event: { kind: 'note', text: 'changed the lamp' } }
};

export const OPERATIONS: Operation[] = [
	...CALCULATIONS.map(({ name, title, request, result }): Operation => ({
		method: 'post',
		path: `/calc/${name}`,
		group: 'Calculations',
		summary: title,
		open: true,
		body: request,
		result,
		shared: true,
		example: CALCULATION_EXAMPLES[name]
	})),
	{
		method: 'get',
		path: '/habits',
		result: Habits,
		group: 'People',
		summary: 'Units, language and hours as you chose them'
	},
	{
		method: 'put',
		path: '/habits',
		result: Habits,
		group: 'People',
		summary: 'Choose them: what is left out follows your browser',
		body: Habits,
		example: { language: 'de-DE', units: { salinity: 'SG 25/25', volume: 'L' }, remindAt: '20:30' }
	},
	{
		method: 'get',
		path: '/systems',
		result: Type.Object({ systems: Type.Array(Tank) }, exact),
		group: 'Tanks',
		summary: 'Your tanks'
	},
	{
		method: 'get',
		path: '/systems/{system}',
		result: TankInFull,
		group: 'Tanks',
		summary: 'One tank with its bands and waters'
	},
	{
		method: 'put',
		path: '/systems/{system}',
		result: Saved,
		group: 'Tanks',
		summary: 'Make a tank under an id of yours; a repeat changes nothing',
		body: NewSystem,
		example: {
			id: '{system}',
			name: 'Cellar',
			netVolumeL: 120,
			timeZone: 'Europe/Dublin',
			alkalinity: { lower: 7.5, upper: 9 }
		}
	},
	{
		method: 'patch',
		path: '/systems/{system}',
		result: TankInFull,
		group: 'Tanks',
		summary: 'Change what is said about a tank; what is left out stays',
		body: ChangeSystem,
		example: { phase: 'settled', bands: { calcium: { lower: 400, upper: 450 } } }
	},
	{
		method: 'put',
		path: '/sources/{source}',
		result: Saved,
		group: 'Tanks',
		summary: 'Save a water that is not the tank’s own, or its new name',
		body: SaveSource,
		example: { systemId: '{system}', kind: 'tap', name: 'Kitchen tap' }
	},
	{
		method: 'get',
		path: '/systems/{system}/waters',
		result: WatersBeside,
		group: 'Tanks',
		summary: 'What was read last of two waters of a tank, or of one beside reference sea water',
		query: WatersQuery
	},
	{
		method: 'get',
		path: '/systems/{system}/lab-sheets',
		result: Labs,
		group: 'Methods',
		summary: 'What labs have said of a tank’s water beside its kits, and samples under way'
	},
	{
		method: 'post',
		path: '/systems/{system}/lab-sheets',
		result: TakenLabSheet,
		group: 'Methods',
		summary: 'A lab’s sheet of one sample, CSV: each answer becomes a reading; the same again adds nothing',
		body: TakeLabSheet,
		example: { text: 'lab,Quay Lab\ndrawn,2026-05-01 20:00\nparameter,result,unit,±\nCalcium,421,mg/L,6\n' }
	},
	{
		method: 'get',
		path: '/systems/{system}/lab-sheets/{posted}',
		result: Text,
		group: 'Methods',
		summary: 'The simulated lab’s sheet of a sample that was posted to it, once it is back',
		answers: 'text/csv'
	},
	{
		method: 'get',
		path: '/systems/{system}/proof',
		result: KitChecks,
		group: 'Methods',
		summary:
			'What is known of the kits of one parameter: scorecards, checks against a reference, two on the same water',
		query: KitChecksQuery
	},
	{
		method: 'get',
		path: '/systems/{system}/readings',
		result: Type.Object({ readings: Type.Array(BookReading), next }, exact),
		group: 'Readings',
		summary: 'Readings, newest first, a page at a time; `next` is the address of the page below',
		query: BookQuery
	},
	{
		method: 'post',
		path: '/systems/{system}/readings',
		result: Reading,
		group: 'Readings',
		summary: 'Save a reading, once for each Idempotency-Key; its value is computed here',
		body: SaveReading,
		once: true,
		example: example.reading
	},
	{
		method: 'get',
		path: '/readings/{reading}',
		result: ReadingInFull,
		group: 'Readings',
		summary: 'A reading with every state it was in'
	},
	{
		method: 'put',
		path: '/readings/{reading}',
		result: Reading,
		group: 'Readings',
		summary: 'Save a reading under an id of yours; a repeat changes nothing',
		body: SaveReading,
		example: example.reading
	},
	{
		method: 'put',
		path: '/readings/{reading}/correction',
		result: Reading,
		group: 'Readings',
		summary: 'Write down what was really seen: a new revision, computed again',
		body: CorrectReading,
		example: {
			basedOn: 1,
			takenAt: '{now}',
			methodVersionId: '{methodVersion}',
			reading: { left: 0.47 },
			reason: 'read off the wrong line'
		}
	},
	{
		method: 'put',
		path: '/readings/{reading}/void',
		result: Reading,
		group: 'Readings',
		summary: 'Take a reading out of the count, with a reason; it is kept',
		body: VoidReading,
		example: { reason: 'the reagent was old' }
	},
	{
		method: 'delete',
		path: '/readings/{reading}/void',
		result: Reading,
		group: 'Readings',
		summary: 'Restore a voided reading'
	},
	{
		method: 'put',
		path: '/readings/voids',
		result: Type.Object({ id, changed: Type.Integer() }, exact),
		group: 'Readings',
		summary: 'Void several readings of one tank, or restore them, all or none',
		body: VoidReadings,
		example: { systemId: '{system}', ids: ['{reading}'], voided: false, reason: 'a try' }
	},
	{
		method: 'get',
		path: '/systems/{system}/events',
		result: Type.Object({ events: Type.Array(BookEvent), next }, exact),
		group: 'Events',
		summary: 'What was done to a tank, newest first, a page at a time',
		query: BookQuery
	},
	{
		method: 'post',
		path: '/systems/{system}/events',
		result: TankEvent,
		group: 'Events',
		summary: 'Save something that was done, once for each Idempotency-Key',
		body: SaveEvent,
		once: true,
		example: example.event
	},
	{
		method: 'put',
		path: '/events/{event}',
		result: TankEvent,
		group: 'Events',
		summary: 'Save a dose, a dosing rate, a water change or a note under an id of yours',
		body: SaveEvent,
		example: example.event
	},
	{
		method: 'put',
		path: '/events/{event}/void',
		result: Saved,
		group: 'Events',
		summary: 'Void it, with a reason',
		body: VoidReading,
		example: { reason: 'it was the other tank' }
	},
	{ method: 'delete', path: '/events/{event}/void', result: Saved, group: 'Events', summary: 'Restore it' },
	{
		method: 'get',
		path: '/systems/{system}/lines',
		result: Type.Object({ lines: Type.Array(BookLine), next }, exact),
		group: 'Readings',
		summary: 'Readings and events in one stream: a page of the book',
		query: BookQuery
	},
	{
		method: 'get',
		path: '/methods',
		result: Type.Object({ methods: Type.Array(KnownMethod) }, exact),
		group: 'Methods',
		summary: 'Methods you may use, in their newest version'
	},
	{
		method: 'get',
		path: '/methods/{method}',
		result: Method,
		group: 'Methods',
		summary: 'One method as a file to share'
	},
	{
		method: 'put',
		path: '/methods/{method}',
		result: SavedMethod,
		group: 'Methods',
		summary: 'Save a method of yours, or a new version of it',
		body: SaveMethod,
		example: { profile: (CALCULATION_EXAMPLES['reading'] as { method: unknown }).method }
	},
	{
		method: 'get',
		path: '/methods/schema',
		result: JsonSchema,
		group: 'Methods',
		summary: 'JSON Schema of tevrik.method/1',
		open: true
	},
	{
		method: 'put',
		path: '/photos/{photo}',
		result: Photo,
		shared: true,
		group: 'Readings',
		summary: 'Keep the picture a reading was taken from: written anew, without place or device data',
		body: SavePhoto,
		example: {
			readingId: '{reading}',
			at: '{now}',
			picture:
				'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=='
		}
	},
	{
		method: 'get',
		path: '/photos/{photo}',
		result: Bytes,
		group: 'Readings',
		summary: 'That picture, for members of its tank',
		answers: 'image/jpeg'
	},
	{
		method: 'delete',
		path: '/photos/{photo}',
		result: Saved,
		group: 'Readings',
		summary: 'Delete it for good'
	},
	{
		method: 'put',
		path: '/packs/{pack}',
		result: Saved,
		group: 'Methods',
		summary: 'Save a pack of reagents',
		body: SavePack,
		example: {
			methodId: '{method}',
			label: 'A',
			batch: '24-11',
			opened: '2026-05-01',
			tests: 90,
			price: 14.5
		}
	},
	{
		method: 'delete',
		path: '/packs/{pack}',
		result: Saved,
		group: 'Methods',
		summary: 'A pack is used up or thrown away'
	},
	{
		method: 'get',
		path: '/supplements',
		result: Type.Object({ supplements: Type.Array(ShelfSupplement) }, exact),
		group: 'Adjust',
		summary: 'What stands on your shelf to be poured, and what is left of it'
	},
	{
		method: 'get',
		path: '/supplements/schema',
		result: JsonSchema,
		group: 'Adjust',
		summary: 'JSON Schema of tevrik.supplement/1',
		open: true
	},
	{
		method: 'put',
		path: '/supplements/{supplement}',
		result: Saved,
		group: 'Adjust',
		summary: 'Keep something to pour: by its label or its recipe',
		body: SaveSupplement,
		example: { profile: SODA, amount: 1000, opened: '2026-05-01' }
	},
	{
		method: 'get',
		path: '/supplements/{supplement}',
		result: Supplement,
		group: 'Adjust',
		summary: 'Something to pour as a file to share'
	},
	{
		method: 'get',
		path: '/systems/{system}/plan',
		result: Planned,
		shared: true,
		group: 'Adjust',
		summary: 'The plan that brings the water home as it is known now, and the one that is followed',
		query: PlanQuery
	},
	{
		method: 'put',
		path: '/plans/{plan}',
		result: Type.Object({ id, madeAt: moment }, exact),
		shared: true,
		group: 'Adjust',
		summary: 'Make a plan and follow it, in place of the one before',
		body: SavePlan,
		example: { systemId: '{system}', wish: { prefer: 'fewest', days: 14 } }
	},
	{
		method: 'put',
		path: '/plans/{plan}/steps/{step}',
		result: Type.Object({ id, events: Type.Array(id) }, exact),
		group: 'Adjust',
		summary: 'Tick a step off, which writes down what was done to the tank, or leave it out',
		body: DoneStep,
		example: { at: '{now}', leftOut: true }
	},
	{
		method: 'delete',
		path: '/plans/{plan}/steps/{step}',
		result: Saved,
		group: 'Adjust',
		summary: 'Take a tick back; what it wrote is void'
	},
	{
		method: 'delete',
		path: '/plans/{plan}',
		result: Saved,
		group: 'Adjust',
		summary: 'End following a plan'
	},
	{
		method: 'delete',
		path: '/supplements/{supplement}',
		result: Saved,
		group: 'Adjust',
		summary: 'It is used up or thrown away'
	},
	{
		method: 'put',
		path: '/runs/{run}',
		result: Saved,
		group: 'Test sessions',
		summary: 'Begin a test session',
		body: NewRun,
		example: {
			systemId: '{system}',
			sourceId: '{source}',
			begin: {
				id: '{new}',
				at: '{now}',
				kind: 'begin',
				tests: [{ id: 'alk', methodVersionId: '{methodVersion}', vial: 1 }],
				people: 1,
				order: [],
				save: 'each'
			}
		}
	},
	{
		method: 'get',
		path: '/runs/{run}/events',
		result: Type.Array(KnownEvent),
		group: 'Test sessions',
		summary: 'What happened in a test session after a place in its list',
		query: Type.Object({ after: Type.Optional(Type.String({ pattern: '^[0-9]{1,6}$' })) })
	},
	{
		method: 'put',
		path: '/runs/{run}/events/{event}',
		result: Type.Object({ id, seq: Type.Integer() }, exact),
		group: 'Test sessions',
		summary: 'Save something that happened in a test session',
		body: RunEvent,
		example: { id: '{event}', at: '{now}', kind: 'finish' }
	},
	{
		method: 'get',
		path: '/systems/{system}/readings.csv',
		result: Text,
		group: 'Files',
		summary: 'Readings as a sheet (CSV), in your units and with your decimal sign',
		query: BookQuery,
		answers: 'text/csv'
	},
	{
		method: 'get',
		path: '/systems/{system}/readings.xlsx',
		result: Bytes,
		group: 'Files',
		summary: 'Readings as a workbook (XLSX), in your units',
		query: BookQuery,
		answers: XLSX
	},
	{
		method: 'get',
		path: '/systems/{system}/book',
		result: Book,
		group: 'Files',
		summary: 'Everything of a tank as tevrik.book/1'
	},
	{
		method: 'put',
		path: '/systems/{system}/book',
		result: Saved,
		group: 'Files',
		summary: 'Take a book in as a tank under this id; a repeat changes nothing',
		body: Book
	},
	{
		method: 'get',
		path: '/books/schema',
		result: JsonSchema,
		group: 'Files',
		summary: 'JSON Schema of tevrik.book/1',
		open: true
	},
	{
		method: 'get',
		path: '/systems/{system}/imports',
		result: Type.Object({ imports: Type.Array(TakenFile) }, exact),
		group: 'Files',
		summary: 'Sheets that were imported'
	},
	{
		method: 'post',
		path: '/systems/{system}/imports',
		result: ImportProgress,
		group: 'Files',
		summary:
			'Take a sheet in: a form of `file` and `choice` (JSON), with a token or from a page of Tevrik; answers line by line how far it is',
		body: Type.Object({ file: Type.String(), choice: TakeIn }, { additionalProperties: false }),
		bodyType: 'multipart/form-data',
		answers: 'application/x-ndjson',
		example: {
			file: 'date,calcium\n2026-04-02 20:00,421\n',
			choice: {
				id: '{import}',
				name: 'sheet.csv',
				separator: ',',
				layout: {
					headerRow: 0,
					decimal: '.',
					order: 'ymd',
					hour: 20,
					columns: [{ kind: 'date' }, { kind: 'value', parameter: 'calcium', unit: 'mg/L' }],
					units: {}
				}
			}
		}
	},
	{
		method: 'get',
		path: '/systems/{system}/imports/{import}',
		result: TakenFile,
		group: 'Files',
		summary: 'What came of a sheet by the id it was sent with; 404 where nothing of it was kept'
	},
	{
		method: 'delete',
		path: '/systems/{system}/imports/{import}',
		result: Type.Object({ changed: Type.Integer() }, exact),
		group: 'Files',
		summary: 'Take out all that came with a sheet; the same sheet brings it back'
	}
];
