import Type, { type TSchema } from 'typebox';
import { CALCULATIONS } from '../../core/calculations';
import { RunEvent } from '../../core/run';
import { Book } from '../../core/formats';
import { CALCULATION_EXAMPLES, SODA } from './calculation-examples';
import { SaveEvent } from './events';
import { Habits } from './habits';
import { TakeIn } from './imports';
import { SaveMethod, SavePack } from './methods';
import { SavePhoto } from './photos';
import { DoneStep, PlanQuery, SavePlan } from './plans';
import { ProofQuery } from './proof';
import { SaveSupplement } from './supplements';
import { BookQuery } from './queries';
import { CorrectReading, SaveReading, VoidReading, VoidReadings } from './readings';
import { TakeLabSheet } from './labs';
import { NewRun } from './runs';
import { ChangeSystem, NewSystem, SaveSource } from './systems';
import { WatersQuery } from './waters';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** One thing the API does. This list is what `/api/v1/openapi.json` and its readable page are made from. */
export interface Operation {
	method: 'get' | 'put' | 'post' | 'patch' | 'delete';
	/** Below /api/v1; names in braces are ids. */
	path: string;
	group:
		'Calculations' | 'People' | 'Tanks' | 'Readings' | 'Events' | 'Methods' | 'Adjust' | 'Evenings' | 'Files';
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
	/** What the answer holds. */
	result?: TSchema;
	/** What the answer is, where it is not JSON. */
	answers?: 'text/csv' | 'application/x-ndjson' | 'image/jpeg' | typeof XLSX;
	/** A body that is accepted; {system}, {source}, {methodVersion}, {method}, {reading}, {now} and {new} stand for ids and moments. */
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
	{ method: 'get', path: '/habits', group: 'People', summary: 'Units, language and hours as you chose them' },
	{
		method: 'put',
		path: '/habits',
		group: 'People',
		summary: 'Choose them: what is left out follows your browser',
		body: Habits,
		example: { language: 'de-DE', units: { salinity: 'SG 25/25', volume: 'L' }, remindAt: '20:30' }
	},
	{ method: 'get', path: '/systems', group: 'Tanks', summary: 'Your tanks' },
	{ method: 'get', path: '/systems/{system}', group: 'Tanks', summary: 'One tank with its bands and waters' },
	{
		method: 'put',
		path: '/systems/{system}',
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
		group: 'Tanks',
		summary: 'Change what is said about a tank; what is left out stays',
		body: ChangeSystem,
		example: { phase: 'settled', bands: { calcium: { lower: 400, upper: 450 } } }
	},
	{
		method: 'put',
		path: '/sources/{source}',
		group: 'Tanks',
		summary: 'Save a water that is not the tank’s own, or its new name',
		body: SaveSource,
		example: { systemId: '{system}', kind: 'tap', name: 'Kitchen tap' }
	},
	{
		method: 'get',
		path: '/systems/{system}/waters',
		group: 'Tanks',
		summary: 'What was read last of two waters of a tank, or of one beside reference sea water',
		query: WatersQuery
	},
	{
		method: 'get',
		path: '/systems/{system}/lab-sheets',
		group: 'Methods',
		summary: 'What labs have said of a tank’s water beside its kits, and samples under way'
	},
	{
		method: 'post',
		path: '/systems/{system}/lab-sheets',
		group: 'Methods',
		summary: 'A lab’s sheet of one sample, CSV: each answer becomes a reading; the same again adds nothing',
		body: TakeLabSheet,
		example: { text: 'lab,Quay Lab\ndrawn,2026-05-01 20:00\nparameter,result,unit,±\nCalcium,421,mg/L,6\n' }
	},
	{
		method: 'get',
		path: '/systems/{system}/lab-sheets/{posted}',
		group: 'Methods',
		summary: 'The simulated lab’s sheet of a sample that was posted to it, once it is back',
		answers: 'text/csv'
	},
	{
		method: 'get',
		path: '/systems/{system}/proof',
		group: 'Methods',
		summary:
			'What is known of the kits of one parameter: scorecards, checks against a reference, two on the same water',
		query: ProofQuery
	},
	{
		method: 'get',
		path: '/systems/{system}/readings',
		group: 'Readings',
		summary: 'Readings, newest first, a page at a time; `next` is the address of the page below',
		query: BookQuery
	},
	{
		method: 'post',
		path: '/systems/{system}/readings',
		group: 'Readings',
		summary: 'Save a reading, once for each Idempotency-Key; its value is computed here',
		body: SaveReading,
		once: true,
		example: example.reading
	},
	{
		method: 'get',
		path: '/readings/{reading}',
		group: 'Readings',
		summary: 'A reading with every state it was in'
	},
	{
		method: 'put',
		path: '/readings/{reading}',
		group: 'Readings',
		summary: 'Save a reading under an id of yours; a repeat changes nothing',
		body: SaveReading,
		example: example.reading
	},
	{
		method: 'put',
		path: '/readings/{reading}/correction',
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
		group: 'Readings',
		summary: 'Take a reading out of the count, with a reason; it is kept',
		body: VoidReading,
		example: { reason: 'the reagent was old' }
	},
	{
		method: 'delete',
		path: '/readings/{reading}/void',
		group: 'Readings',
		summary: 'Restore a voided reading'
	},
	{
		method: 'put',
		path: '/readings/voids',
		group: 'Readings',
		summary: 'Void several readings of one tank, or restore them, all or none',
		body: VoidReadings,
		example: { systemId: '{system}', ids: ['{reading}'], voided: false, reason: 'a try' }
	},
	{
		method: 'get',
		path: '/systems/{system}/events',
		group: 'Events',
		summary: 'What was done to a tank, newest first, a page at a time',
		query: BookQuery
	},
	{
		method: 'post',
		path: '/systems/{system}/events',
		group: 'Events',
		summary: 'Save something that was done, once for each Idempotency-Key',
		body: SaveEvent,
		once: true,
		example: example.event
	},
	{
		method: 'put',
		path: '/events/{event}',
		group: 'Events',
		summary: 'Save a dose, a dosing rate, a water change or a note under an id of yours',
		body: SaveEvent,
		example: example.event
	},
	{
		method: 'put',
		path: '/events/{event}/void',
		group: 'Events',
		summary: 'Void it, with a reason',
		body: VoidReading,
		example: { reason: 'it was the other tank' }
	},
	{ method: 'delete', path: '/events/{event}/void', group: 'Events', summary: 'Restore it' },
	{
		method: 'get',
		path: '/systems/{system}/lines',
		group: 'Readings',
		summary: 'Readings and events in one stream: a page of the book',
		query: BookQuery
	},
	{
		method: 'get',
		path: '/methods',
		group: 'Methods',
		summary: 'Methods you may use, in their newest version'
	},
	{ method: 'get', path: '/methods/{method}', group: 'Methods', summary: 'One method as a file to share' },
	{
		method: 'put',
		path: '/methods/{method}',
		group: 'Methods',
		summary: 'Save a method of yours, or a new version of it',
		body: SaveMethod,
		example: { profile: (CALCULATION_EXAMPLES['reading'] as { method: unknown }).method }
	},
	{
		method: 'get',
		path: '/methods/schema',
		group: 'Methods',
		summary: 'JSON Schema of tevrik.method/1',
		open: true
	},
	{
		method: 'put',
		path: '/photos/{photo}',
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
		group: 'Readings',
		summary: 'That picture, for members of its tank',
		answers: 'image/jpeg'
	},
	{ method: 'delete', path: '/photos/{photo}', group: 'Readings', summary: 'Delete it for good' },
	{
		method: 'put',
		path: '/packs/{pack}',
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
	{ method: 'delete', path: '/packs/{pack}', group: 'Methods', summary: 'A pack is used up or thrown away' },
	{
		method: 'get',
		path: '/supplements',
		group: 'Adjust',
		summary: 'What stands on your shelf to be poured, and what is left of it'
	},
	{
		method: 'get',
		path: '/supplements/schema',
		group: 'Adjust',
		summary: 'JSON Schema of tevrik.supplement/1',
		open: true
	},
	{
		method: 'put',
		path: '/supplements/{supplement}',
		group: 'Adjust',
		summary: 'Keep something to pour: by its label or its recipe',
		body: SaveSupplement,
		example: { profile: SODA, amount: 1000, opened: '2026-05-01' }
	},
	{
		method: 'get',
		path: '/supplements/{supplement}',
		group: 'Adjust',
		summary: 'Something to pour as a file to share'
	},
	{
		method: 'get',
		path: '/systems/{system}/plan',
		shared: true,
		group: 'Adjust',
		summary: 'The plan that brings the water home as it is known now, and the one that is followed',
		query: PlanQuery
	},
	{
		method: 'put',
		path: '/plans/{plan}',
		shared: true,
		group: 'Adjust',
		summary: 'Make a plan and follow it, in place of the one before',
		body: SavePlan,
		example: { systemId: '{system}', wish: { prefer: 'fewest', days: 14 } }
	},
	{
		method: 'put',
		path: '/plans/{plan}/steps/{step}',
		group: 'Adjust',
		summary: 'Tick a step off, which writes down what was done to the tank, or leave it out',
		body: DoneStep,
		example: { at: '{now}', leftOut: true }
	},
	{
		method: 'delete',
		path: '/plans/{plan}/steps/{step}',
		group: 'Adjust',
		summary: 'Take a tick back; what it wrote is void'
	},
	{ method: 'delete', path: '/plans/{plan}', group: 'Adjust', summary: 'End following a plan' },
	{
		method: 'delete',
		path: '/supplements/{supplement}',
		group: 'Adjust',
		summary: 'It is used up or thrown away'
	},
	{
		method: 'put',
		path: '/runs/{run}',
		group: 'Evenings',
		summary: 'Begin an evening at the bench',
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
		group: 'Evenings',
		summary: 'What happened in an evening after a place in its list',
		query: Type.Object({ after: Type.Optional(Type.String({ pattern: '^[0-9]{1,6}$' })) })
	},
	{
		method: 'put',
		path: '/runs/{run}/events/{event}',
		group: 'Evenings',
		summary: 'Save something that happened in an evening',
		body: RunEvent,
		example: { id: '{event}', at: '{now}', kind: 'finish' }
	},
	{
		method: 'get',
		path: '/systems/{system}/readings.csv',
		group: 'Files',
		summary: 'Readings as a sheet (CSV), in your units and with your decimal sign',
		query: BookQuery,
		answers: 'text/csv'
	},
	{
		method: 'get',
		path: '/systems/{system}/readings.xlsx',
		group: 'Files',
		summary: 'Readings as a workbook (XLSX), in your units',
		query: BookQuery,
		answers: XLSX
	},
	{
		method: 'get',
		path: '/systems/{system}/book',
		group: 'Files',
		summary: 'Everything of a tank as tevrik.book/1'
	},
	{
		method: 'put',
		path: '/systems/{system}/book',
		group: 'Files',
		summary: 'Take a book in as a tank under this id; a repeat changes nothing',
		body: Book
	},
	{
		method: 'get',
		path: '/books/schema',
		group: 'Files',
		summary: 'JSON Schema of tevrik.book/1',
		open: true
	},
	{
		method: 'get',
		path: '/systems/{system}/imports',
		group: 'Files',
		summary: 'Sheets that were imported'
	},
	{
		method: 'post',
		path: '/systems/{system}/imports',
		group: 'Files',
		summary:
			'Take a sheet in: a form of `file` and `choice` (JSON), with a token or from a page of Tevrik; answers line by line how far it is',
		body: Type.Object({ file: Type.String(), choice: TakeIn }, { additionalProperties: false }),
		bodyType: 'multipart/form-data',
		answers: 'application/x-ndjson',
		example: {
			file: 'date,calcium\n2026-04-02 20:00,421\n',
			choice: {
				id: '{new}',
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
		group: 'Files',
		summary: 'What came of a sheet by the id it was sent with; 404 where nothing of it was kept'
	},
	{
		method: 'delete',
		path: '/systems/{system}/imports/{import}',
		group: 'Files',
		summary: 'Take out all that came with a sheet; the same sheet brings it back'
	}
];
