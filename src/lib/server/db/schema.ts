import {
	boolean,
	char,
	date,
	datetime,
	double,
	index,
	int,
	json,
	mysqlTable,
	primaryKey,
	unique,
	varchar
} from 'drizzle-orm/mysql-core';
import type { Conduct, RunEvent, StepMark } from '../../../core/bench';
import type { Phase } from '../../../core/targets';
import type { WaterEvent } from '../../../core/trend';
import type { Measured, Method, Qualifier, RawReading } from '../../../core/methods';

/** Ids are made by whoever creates the thing (UUID v7), so that a repeated send is recognised. */
const id = (name: string) => char(name, { length: 36 });
/** An instant, UTC to the millisecond. */
const instant = (name: string) => datetime(name, { mode: 'date', fsp: 3 });

export const user = mysqlTable('user', {
	id: id('id').primaryKey(),
	name: varchar('name', { length: 120 }).notNull(),
	/** Opens this person's calendar of reminders to whoever has it; made when it is first asked for. */
	calendarToken: char('calendar_token', { length: 43 }).unique('user_by_calendar'),
	createdAt: instant('created_at').notNull()
});

/** A tank and all that hangs on it. */
export const system = mysqlTable('system', {
	id: id('id').primaryKey(),
	name: varchar('name', { length: 120 }).notNull(),
	netVolumeL: double('net_volume_l').notNull(),
	phase: varchar('phase', { length: 20 }).$type<Phase>().notNull(),
	timeZone: varchar('time_zone', { length: 60 }).notNull(),
	school: varchar('school', { length: 40 }).notNull(),
	createdAt: instant('created_at').notNull()
});

export const membership = mysqlTable(
	'membership',
	{
		userId: id('user_id')
			.notNull()
			.references(() => user.id),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		role: varchar('role', { length: 20 }).$type<'owner' | 'keeper' | 'viewer'>().notNull()
	},
	(t) => [primaryKey({ columns: [t.userId, t.systemId] })]
);

/** Where water comes from: the tank itself, a mixing bin, the tap. */
export const source = mysqlTable(
	'source',
	{
		id: id('id').primaryKey(),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		kind: varchar('kind', { length: 20 })
			.$type<'tank' | 'new mix' | 'tap' | 'purified' | 'reference' | 'other'>()
			.notNull(),
		name: varchar('name', { length: 120 }).notNull()
	},
	(t) => [index('source_of_system').on(t.systemId)]
);

/** Water drawn at one moment; every reading is of one. */
export const sample = mysqlTable(
	'sample',
	{
		id: id('id').primaryKey(),
		sourceId: id('source_id')
			.notNull()
			.references(() => source.id),
		takenAt: instant('taken_at').notNull()
	},
	(t) => [index('sample_of_source').on(t.sourceId, t.takenAt)]
);

/** A kit or instrument. Without an owner it came with Tevrik. */
export const method = mysqlTable('method', {
	id: id('id').primaryKey(),
	ownerId: id('owner_id').references(() => user.id),
	slug: varchar('slug', { length: 60 }).notNull(),
	parameter: varchar('parameter', { length: 40 }).notNull()
});

/** A method as it was at one time; readings hold on to theirs. */
export const methodVersion = mysqlTable(
	'method_version',
	{
		id: id('id').primaryKey(),
		methodId: id('method_id')
			.notNull()
			.references(() => method.id),
		version: int('version').notNull(),
		name: varchar('name', { length: 120 }).notNull(),
		profile: json('profile').$type<Method>().notNull(),
		createdAt: instant('created_at').notNull()
	},
	(t) => [unique('version_of_method').on(t.methodId, t.version)]
);

/** Reagents for a method, counted down by the readings made with it since it was opened. */
export const pack = mysqlTable(
	'pack',
	{
		id: id('id').primaryKey(),
		ownerId: id('owner_id')
			.notNull()
			.references(() => user.id),
		methodId: id('method_id')
			.notNull()
			.references(() => method.id),
		label: varchar('label', { length: 4 }).notNull(),
		batch: varchar('batch', { length: 60 }).notNull(),
		opened: date('opened', { mode: 'string' }).notNull(),
		bestBefore: date('best_before', { mode: 'string' }),
		tests: int('tests').notNull(),
		price: double('price').notNull(),
		finished: boolean('finished').notNull()
	},
	(t) => [index('pack_of_owner').on(t.ownerId, t.methodId)]
);

/** The band a keeper wants one parameter in, in the parameter's own unit. */
export const band = mysqlTable(
	'band',
	{
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		parameter: varchar('parameter', { length: 40 }).notNull(),
		lower: double('lower').notNull(),
		upper: double('upper').notNull()
	},
	(t) => [primaryKey({ columns: [t.systemId, t.parameter] })]
);

/** What was done to a tank: a dose, a dosing rate, a water change, a note. */
export const event = mysqlTable(
	'event',
	{
		id: id('id').primaryKey(),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		at: instant('at').notNull(),
		body: json('body').$type<WaterEvent>().notNull(),
		byUserId: id('by_user_id')
			.notNull()
			.references(() => user.id),
		createdAt: instant('created_at').notNull(),
		voided: boolean('voided').notNull(),
		reason: varchar('reason', { length: 300 })
	},
	(t) => [index('event_of_system').on(t.systemId, t.at)]
);

/** An evening at the bench with one water; what it is follows from its events. */
export const run = mysqlTable(
	'run',
	{
		id: id('id').primaryKey(),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		sourceId: id('source_id')
			.notNull()
			.references(() => source.id),
		byUserId: id('by_user_id')
			.notNull()
			.references(() => user.id),
		startedAt: instant('started_at').notNull(),
		finishedAt: instant('finished_at')
	},
	(t) => [index('run_of_system').on(t.systemId, t.startedAt)]
);

/** Something that happened at the bench, in the order in which it reached the server. */
export const runEvent = mysqlTable(
	'run_event',
	{
		id: id('id').primaryKey(),
		runId: id('run_id')
			.notNull()
			.references(() => run.id),
		seq: int('seq').notNull(),
		byUserId: id('by_user_id')
			.notNull()
			.references(() => user.id),
		body: json('body').$type<RunEvent>().notNull()
	},
	(t) => [unique('event_of_run').on(t.runId, t.seq)]
);

/** One answer; what it says stands in its newest revision. */
export const reading = mysqlTable(
	'reading',
	{
		id: id('id').primaryKey(),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		sampleId: id('sample_id')
			.notNull()
			.references(() => sample.id),
		/** The sample's, here too: the two hot questions ask for one water's readings in order of time. */
		sourceId: id('source_id')
			.notNull()
			.references(() => source.id),
		parameter: varchar('parameter', { length: 40 }).notNull(),
		takenAt: instant('taken_at').notNull(),
		/** Which revision counts. */
		revision: int('revision').notNull(),
		/** The evening it was read in, how it was done step by step, and what was done otherwise than the method says. */
		runId: id('run_id').references(() => run.id),
		conduct: json('conduct').$type<Conduct[]>(),
		marks: json('marks').$type<StepMark[]>()
	},
	(t) => [
		index('span_of_source').on(t.sourceId, t.parameter, t.takenAt, t.id),
		index('span_of_parameter').on(t.systemId, t.parameter, t.takenAt)
	]
);

/** What was seen and what was computed from it, once for each time it was saved, corrected or voided. */
export const revision = mysqlTable(
	'revision',
	{
		readingId: id('reading_id')
			.notNull()
			.references(() => reading.id),
		revision: int('revision').notNull(),
		byUserId: id('by_user_id')
			.notNull()
			.references(() => user.id),
		at: instant('at').notNull(),
		methodVersionId: id('method_version_id')
			.notNull()
			.references(() => methodVersion.id),
		raw: json('raw').$type<RawReading>().notNull(),
		sampleSize: varchar('sample_size', { length: 40 }),
		/** The reading that was taken away, for methods by difference. */
		takenAwayId: id('taken_away_id'),
		result: json('result').$type<Measured>().notNull(),
		calculation: varchar('calculation', { length: 40 }).notNull(),
		/** The result again, in the parameter's own unit, so that SQL can sort and average it. */
		qualifier: varchar('qualifier', { length: 8 }).$type<Qualifier>().notNull(),
		unit: varchar('unit', { length: 40 }).notNull(),
		value: double('value'),
		standardUncertainty: double('standard_uncertainty'),
		repeatability: double('repeatability'),
		low: double('low'),
		high: double('high'),
		voided: boolean('voided').notNull(),
		reason: varchar('reason', { length: 300 })
	},
	(t) => [primaryKey({ columns: [t.readingId, t.revision] })]
);
