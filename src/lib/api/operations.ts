import Type, { type TSchema } from 'typebox';
import { CALCULATIONS } from '../../core/calculations';
import { RunEvent } from '../../core/run';
import { Book } from '../../core/formats';
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
const SODA = {
	format: 'tevrik.supplement/1',
	id: 'soda',
	name: 'Soda, home-made',
	kind: 'solution',
	composition: { recipe: { salt: 'NaHCO3', gramsPerL: 80 } }
};
const CALCULATION_EXAMPLES: Record<string, unknown> = {
	convert: { quantity: 'alkalinity', value: 145, from: 'ppm CaCO3', to: 'dKH' },
	seawater: { salinity: { value: 1.026, unit: 'SG 25/25' }, temperatureC: 25 },
	colour: {
		patches: [
			{ value: 0, samples: Array.from({ length: 30 }, (_, i) => [232, 228 + (i % 3), 224]) },
			{ value: 5, samples: Array.from({ length: 30 }, (_, i) => [226, 196 + (i % 3), 205]) },
			{ value: 10, samples: Array.from({ length: 30 }, (_, i) => [219, 168 + (i % 3), 188]) },
			{ value: 25, samples: Array.from({ length: 30 }, (_, i) => [205, 122 + (i % 3), 160]) }
		],
		white: Array.from({ length: 30 }, (_, i) => [236, 233 + (i % 3), 229]),
		vial: { samples: Array.from({ length: 30 }, (_, i) => [222, 180 + (i % 3), 196]) }
	},
	plunger: {
		rows: Array.from({ length: 150 }, (_, i) =>
			Array.from({ length: 5 }, () => (i < 72 ? 190 : i < 84 ? 40 : 150))
		),
		from: -0.1,
		to: 1.1,
		fillMl: 1,
		graduationMl: 0.02
	},
	titration: {
		analyte: 'alkalinity',
		water: { alkalinity: 8.2 },
		sampleMl: 6,
		titrant: { molar: 0.036 },
		light: 'blue tank lamp',
		additions: [
			{ ml: 0.4, seconds: 20, swirl: 1 },
			{ ml: 0.012, seconds: 1 },
			{ ml: 0, seconds: 3, swirl: 1 }
		]
	},
	hand: {
		endPoints: [0.4, 0.9, 0.2, 1.3, 0.6, 0.7, 0.3, 1.1, 0.5, 0.8].map((over) => ({
			instrument: 'syringe',
			parameter: 'alkalinity',
			light: 'daylight',
			over
		})),
		plungers: [{ off: 0.3 }, { off: -0.2 }, { off: 0.4 }],
		looks: [
			{ parameter: 'nitrate', light: 'daylight', steps: 1.2, right: true },
			{ parameter: 'nitrate', light: 'daylight', steps: 0.4, right: false }
		]
	},
	leaflet: {
		words: [1, 0.9, 0.8, 0.7].flatMap((left, i) => [
			{ text: left.toFixed(2), confidence: 96, box: [100, 50 + 30 * i, 150, 70 + 30 * i] },
			{ text: (1.7 * i).toFixed(1), confidence: 95, box: [220, 50 + 30 * i, 262, 70 + 30 * i] }
		])
	},
	chart: {
		parameter: 'alkalinity',
		unit: 'dKH',
		reads: 'syringe',
		points: [
			[1, 0],
			[0.5, 8.4],
			[0.2, 13.4]
		]
	},
	bench: {
		tests: [
			{
				id: 'a',
				steps: [
					{ label: 'shake', hands: 60, then: { wait: 300 } },
					{ label: 'read', hands: 20 }
				]
			},
			{ id: 'b', steps: [{ label: 'titrate', hands: 200 }] }
		]
	},
	trend: {
		parameter: 'alkalinity',
		unit: 'dKH',
		readings: [
			{ at: '2026-05-01T19:00:00Z', value: 8.3, standardUncertainty: 0.15 },
			{ at: '2026-05-05T19:00:00Z', value: 8.1, standardUncertainty: 0.15 },
			{ at: '2026-05-09T19:00:00Z', value: 8.0, standardUncertainty: 0.15 }
		],
		band: { lower: 7.5, upper: 9 },
		now: '2026-05-10T19:00:00Z'
	},
	targets: { school: 'natural levels', phase: 'settled', own: {} },
	dose: {
		supplement: SODA,
		volume: { value: 200, standardUncertainty: 15 },
		change: { parameter: 'alkalinity', value: 1, unit: 'dKH' }
	},
	blend: {
		waters: [
			{ id: 'tap', values: { hardness: 18, alkalinity: 12 } },
			{ id: 'purified', values: { hardness: 0, alkalinity: 0 } }
		],
		target: { hardness: 6 },
		litres: 90
	},
	correct: {
		now: '2026-05-10T19:00:00Z',
		days: 14,
		water: { volumeL: { value: 200, standardUncertainty: 15 }, salinity: 35, temperatureC: 25 },
		parameters: [
			{
				parameter: 'alkalinity',
				unit: 'dKH',
				now: { mean: 7.1, standardDeviation: 0.12 },
				usePerDay: { mean: 0.2, standardDeviation: 0.03 },
				band: { lower: 8, upper: 9.5 },
				healthyPerDay: { up: 0.5, down: 0.5 }
			}
		],
		dosing: [],
		supplements: [SODA],
		prefer: 'soonest'
	},
	'net-volume': {
		added: { value: 200, standardUncertainty: 4 },
		before: { value: 7.1, standardUncertainty: 0.1 },
		after: { value: 8.1, standardUncertainty: 0.1 },
		days: 1,
		netPerDay: { value: -0.1, standardUncertainty: 0.02 }
	},
	reference: {
		reference: { parameter: 'alkalinity', unit: 'dKH', value: 8, standardUncertainty: 0.05 },
		tests: [
			{ at: '2026-05-10T19:00:00Z', value: 8.5, repeatability: 0.1 },
			{ at: '2026-05-10T19:10:00Z', value: 8.6, repeatability: 0.1 }
		],
		prior: { trueness: 0.25 }
	},
	compare: {
		pairs: [
			{
				a: { value: 7.9, standardUncertainty: 0.25, repeatability: 0.1 },
				b: { value: 8.5, standardUncertainty: 0.25, repeatability: 0.1 }
			}
		]
	},
	scorecard: {
		methods: [
			{ id: 'syringe', times: [{ hands: 180, wait: 0 }], pack: { tests: 90, price: 18 }, errors: [0.2] },
			{ id: 'drops', times: [{ hands: 90, wait: 0 }], pack: { tests: 50, price: 15 }, errors: [0.5] }
		]
	},
	waters: {
		a: {
			salinity: { value: 35, standardUncertainty: 0.3 },
			calcium: { value: 430, standardUncertainty: 8 },
			magnesium: { value: 1280, standardUncertainty: 25 }
		}
	},
	'low-ph': { ph: 7.75, alkalinity: 8, salinity: 35, temperatureC: 25 },
	reading: {
		method: {
			format: 'tevrik.method/1',
			id: 'alk-drops',
			name: 'Alkalinity, drops',
			parameter: 'alkalinity',
			unit: 'dKH',
			reads: 'drops',
			scale: { kind: 'linear', perDrop: 0.5 }
		},
		reading: { drops: 17 }
	}
};

export const OPERATIONS: Operation[] = [
	...CALCULATIONS.map(({ name, title, request }): Operation => ({
		method: 'post',
		path: `/calc/${name}`,
		group: 'Calculations',
		summary: title,
		open: true,
		body: request,
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
		group: 'Adjust',
		summary: 'The plan that brings the water home as it is known now, and the one that is followed',
		query: PlanQuery
	},
	{
		method: 'put',
		path: '/plans/{plan}',
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
		answers: 'application/x-ndjson'
	},
	{
		method: 'delete',
		path: '/systems/{system}/imports/{import}',
		group: 'Files',
		summary: 'Take out all that came with a sheet; the same sheet brings it back'
	}
];
