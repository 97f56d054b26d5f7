import { sql } from 'drizzle-orm';
import {
	bigint,
	boolean,
	char,
	date,
	datetime,
	double,
	index,
	int,
	json,
	mediumtext,
	mysqlTable,
	primaryKey,
	text,
	unique,
	varchar
} from 'drizzle-orm/mysql-core';
import type { Conduct, RunEvent, StepMark } from '../../../core/run';
import type { Phase } from '../../../core/catalogue';
import type { WaterEvent } from '../../../core/trend';
import type { GivenReading, Kind, Method } from '../../../core/instruments';
import type { Measured, Qualifier } from '../../../core/methods';
import type { ReferenceContent } from '../../../core/quality';
import type { TankSizes, WaterChange } from '../../../core/tank';
import type { Supplement } from '../../../core/adjust';
import type { Habits } from '../../api/habits';
import type { PhotoMarks } from '../../../core/picture';
import type { KeptPlan } from '../../api/plans';

/** Ids are made by whoever creates the thing (UUID v7), so that a repeated send is recognised. */
const id = (name: string) => char(name, { length: 36 });
/** An instant, UTC to the millisecond. */
const instant = (name: string) => datetime(name, { mode: 'date', fsp: 3 });

export const user = mysqlTable('user', {
	id: id('id').primaryKey(),
	name: varchar('name', { length: 120 }).notNull(),
	email: varchar('email', { length: 254 }).notNull().unique('user_by_email'),
	emailVerified: boolean('email_verified').notNull().default(false),
	image: varchar('image', { length: 300 }),
	/** Runs this server: reads the outbox, opens and closes sign-up. The first account does. */
	operator: boolean('operator').notNull().default(false),
	/** A code of an authenticator is asked for after the password. */
	twoFactorEnabled: boolean('two_factor_enabled').notNull().default(false),
	/** The secret of this person's calendar address follows from this and the server's own secret; made when first asked for. */
	calendarNonce: char('calendar_nonce', { length: 22 }),
	/** The hash of that secret: whoever reads the database cannot use it. */
	calendarHash: char('calendar_hash', { length: 64 }).unique('user_by_calendar_hash'),
	/** What its calendar told last: by event a hash of it, and since when it is so. */
	calendarTold: json('calendar_told').$type<Record<string, [hash: string, since: string]>>(),
	/** Units, language and hour of reminders as this person wants them; null: as their browser says. */
	habits: json('habits').$type<Habits>(),
	createdAt: instant('created_at').notNull(),
	updatedAt: instant('updated_at').notNull()
});

/** A device that is signed in. This and the next two are better-auth's. */
export const session = mysqlTable(
	'session',
	{
		id: id('id').primaryKey(),
		userId: id('user_id')
			.notNull()
			.references(() => user.id),
		token: varchar('token', { length: 80 }).notNull().unique('session_by_token'),
		expiresAt: instant('expires_at').notNull(),
		ipAddress: varchar('ip_address', { length: 60 }),
		userAgent: varchar('user_agent', { length: 500 }),
		createdAt: instant('created_at').notNull(),
		updatedAt: instant('updated_at').notNull()
	},
	(t) => [index('session_of_user').on(t.userId)]
);

/** How a person signs in: their password's hash. */
export const account = mysqlTable(
	'account',
	{
		id: id('id').primaryKey(),
		userId: id('user_id')
			.notNull()
			.references(() => user.id),
		accountId: varchar('account_id', { length: 120 }).notNull(),
		providerId: varchar('provider_id', { length: 40 }).notNull(),
		password: varchar('password', { length: 300 }),
		accessToken: varchar('access_token', { length: 300 }),
		refreshToken: varchar('refresh_token', { length: 300 }),
		idToken: varchar('id_token', { length: 300 }),
		accessTokenExpiresAt: instant('access_token_expires_at'),
		refreshTokenExpiresAt: instant('refresh_token_expires_at'),
		scope: varchar('scope', { length: 120 }),
		createdAt: instant('created_at').notNull(),
		updatedAt: instant('updated_at').notNull()
	},
	(t) => [index('account_of_user').on(t.userId)]
);

/** What proves a forgotten password's owner for an hour. */
export const verification = mysqlTable(
	'verification',
	{
		id: id('id').primaryKey(),
		/** A hash of the secret. */
		identifier: varchar('identifier', { length: 200 }).notNull(),
		value: varchar('value', { length: 2000 }).notNull(),
		expiresAt: instant('expires_at').notNull(),
		createdAt: instant('created_at').notNull(),
		updatedAt: instant('updated_at').notNull()
	},
	(t) => [index('verification_by_identifier').on(t.identifier)]
);

/** An authenticator's secret and recovery codes, both encrypted with the server's secret. better-auth's. */
export const twoFactor = mysqlTable(
	'two_factor',
	{
		id: id('id').primaryKey(),
		userId: id('user_id')
			.notNull()
			.references(() => user.id),
		secret: varchar('secret', { length: 500 }).notNull(),
		backupCodes: varchar('backup_codes', { length: 2000 }).notNull(),
		verified: boolean('verified').notNull().default(true),
		failedVerificationCount: int('failed_verification_count').notNull().default(0),
		lockedUntil: instant('locked_until')
	},
	(t) => [index('two_factor_of_user').on(t.userId)]
);

/** A key on a device that signs in without a password; only its public half is kept. better-auth's. */
export const passkey = mysqlTable(
	'passkey',
	{
		id: id('id').primaryKey(),
		name: varchar('name', { length: 120 }),
		publicKey: varchar('public_key', { length: 2000 }).notNull(),
		userId: id('user_id')
			.notNull()
			.references(() => user.id),
		credentialID: varchar('credential_id', { length: 700 }).notNull(),
		counter: bigint('counter', { mode: 'number' }).notNull(),
		deviceType: varchar('device_type', { length: 40 }).notNull(),
		backedUp: boolean('backed_up').notNull(),
		transports: varchar('transports', { length: 200 }),
		createdAt: instant('created_at'),
		aaguid: varchar('aaguid', { length: 60 })
	},
	(t) => [index('passkey_of_user').on(t.userId), index('passkey_by_credential').on(t.credentialID)]
);

/** Tries counted by rate-limiter-flexible, so that several app processes slow down together. */
export const attempt = mysqlTable('attempt', {
	key: varchar('key', { length: 255 }).primaryKey(),
	points: int('points').notNull().default(0),
	expire: bigint('expire', { mode: 'number', unsigned: true })
});

/** What this server may do, by name. */
export const setting = mysqlTable('setting', {
	name: varchar('name', { length: 40 }).primaryKey(),
	value: json('value').notNull()
});

/** Mail that would have gone out: a stand-in for a mail service, read by whoever runs the server. */
export const mail = mysqlTable('mail', {
	id: id('id').primaryKey(),
	at: instant('at').notNull(),
	recipient: varchar('recipient', { length: 254 }).notNull(),
	subject: varchar('subject', { length: 200 }).notNull(),
	/** Encrypted with the server's secret: links in it let people in. */
	body: text('body').notNull()
});

/** A tank and all that hangs on it. */
export const system = mysqlTable('system', {
	id: id('id').primaryKey(),
	name: varchar('name', { length: 120 }).notNull(),
	netVolumeL: double('net_volume_l').notNull(),
	phase: varchar('phase', { length: 20 }).$type<Phase>().notNull(),
	timeZone: varchar('time_zone', { length: 60 }).notNull(),
	school: varchar('school', { length: 40 }).notNull(),
	/** What this keeper holds it at, PSU. */
	salinityPsu: double('salinity_psu').notNull().default(35),
	/** What the net volume was worked out from; null where it was measured. */
	sizes: json('sizes').$type<TankSizes>(),
	/** Standard uncertainty of the net volume, L, where it was measured; null: as sizes or a guess have it. */
	netVolumeError: double('net_volume_error'),
	/** How this keeper changes water; null: not said yet. */
	waterChange: json('water_change').$type<WaterChange>(),
	createdAt: instant('created_at').notNull()
});

/**
 * A number by chance for each tank and person, another after every write to what is theirs: whoever finds the same number again
 * knows, in whichever process, that nothing has changed. No foreign key: a write to a stamp waits for no other table.
 */
export const stamp = mysqlTable('stamp', {
	id: id('id').primaryKey(),
	value: bigint('value', { mode: 'number', unsigned: true }).notNull()
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

/** A way in for one more person: whoever has the link, once, until it expires. Only the hash of its secret is kept. */
export const invitation = mysqlTable(
	'invitation',
	{
		id: id('id').primaryKey(),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		role: varchar('role', { length: 20 }).$type<'keeper' | 'viewer'>().notNull(),
		hash: char('hash', { length: 64 }).notNull().unique('invitation_by_hash'),
		byUserId: id('by_user_id')
			.notNull()
			.references(() => user.id),
		createdAt: instant('created_at').notNull(),
		expiresAt: instant('expires_at').notNull(),
		usedByUserId: id('used_by_user_id').references(() => user.id)
	},
	(t) => [index('invitation_of_system').on(t.systemId)]
);

/** A program's way in, as one person, to some of their tanks (null: all). Only the hash of the token is kept. */
export const apiToken = mysqlTable(
	'api_token',
	{
		id: id('id').primaryKey(),
		userId: id('user_id')
			.notNull()
			.references(() => user.id),
		name: varchar('name', { length: 80 }).notNull(),
		hash: char('hash', { length: 64 }).notNull().unique('api_token_by_hash'),
		systems: json('systems').$type<string[] | null>(),
		writes: boolean('writes').notNull(),
		/** From then on it opens nothing; null: never. */
		expiresAt: instant('expires_at'),
		/** A new password of its person ends it as well. */
		endsWithPassword: boolean('ends_with_password').notNull().default(false),
		createdAt: instant('created_at').notNull(),
		usedAt: instant('used_at')
	},
	(t) => [index('api_token_of_user').on(t.userId)]
);

/** A file of readings that was taken in, so that it can be taken out again as a whole. */
export const importedFile = mysqlTable(
	'imported_file',
	{
		id: id('id').primaryKey(),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		byUserId: id('by_user_id')
			.notNull()
			.references(() => user.id),
		at: instant('at').notNull(),
		name: varchar('name', { length: 200 }).notNull(),
		added: int('added').notNull(),
		known: int('known').notNull(),
		refused: int('refused').notNull(),
		takenBack: boolean('taken_back').notNull().default(false)
	},
	(t) => [index('import_of_system').on(t.systemId, t.at)]
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
		name: varchar('name', { length: 120 }).notNull(),
		/** What a reference is known to hold. */
		content: json('content').$type<ReferenceContent>()
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
		/** By which kind of instrument, out of the profile. */
		reads: varchar('reads', { length: 40 })
			.generatedAlwaysAs(sql`json_value(\`profile\`, '$.reads')`, { mode: 'stored' })
			.$type<Kind>(),
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

/** A bottle, jar or bag of something that is poured to move the water: as its label or recipe has it. */
export const supplement = mysqlTable(
	'supplement',
	{
		id: id('id').primaryKey(),
		ownerId: id('owner_id')
			.notNull()
			.references(() => user.id),
		profile: json('profile').$type<Supplement>().notNull(),
		/** mL or g there were when it was opened; null: not counted. */
		amount: double('amount'),
		opened: date('opened', { mode: 'string' }),
		finished: boolean('finished').notNull()
	},
	(t) => [index('supplement_of_owner').on(t.ownerId)]
);

/** The plan a tank is under: as it was made, what it rests on, and what of it was done. One tank has one. */
export const plan = mysqlTable(
	'plan',
	{
		id: id('id').primaryKey(),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		madeAt: instant('made_at').notNull(),
		byUserId: id('by_user_id')
			.notNull()
			.references(() => user.id),
		body: json('body').$type<KeptPlan>().notNull()
	},
	(t) => [unique('plan_of_system').on(t.systemId)]
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
		/** Who wrote it down where the book came from, if it came from elsewhere. */
		attributedTo: varchar('attributed_to', { length: 120 }),
		/** The file it came with. */
		importId: id('import_id').references(() => importedFile.id),
		voided: boolean('voided').notNull(),
		reason: varchar('reason', { length: 300 })
	},
	(t) => [index('event_of_system').on(t.systemId, t.at)]
);

/** A run at the bench with one water; what it is follows from its events. */
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
		/** The run it was read in, how it was done step by step, and what was done otherwise than the method says. */
		runId: id('run_id').references(() => run.id),
		conduct: json('conduct').$type<Conduct[]>(),
		marks: json('marks').$type<StepMark[]>(),
		/** The file it came with. */
		importId: id('import_id').references(() => importedFile.id)
	},
	(t) => [
		index('book_of_system').on(t.systemId, t.takenAt, t.id),
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
		/** When the water was drawn, as of this revision; null: as before. */
		takenAt: instant('taken_at'),
		attributedTo: varchar('attributed_to', { length: 120 }),
		/** By now with its tag; older ones without (`rawAsTagged`). */
		raw: json('raw').$type<GivenReading>().notNull(),
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
		/** Whether it says something of the water: it was read by a chart of the keeper's own, and so was what it takes away. */
		ownChart: boolean('own_chart').notNull().default(true),
		voided: boolean('voided').notNull(),
		reason: varchar('reason', { length: 300 })
	},
	(t) => [primaryKey({ columns: [t.readingId, t.revision] })]
);

/** The picture a reading was taken from: the evidence beside it. Nothing of what was sent but its pixels is kept. */
export const photo = mysqlTable(
	'photo',
	{
		id: id('id').primaryKey(),
		systemId: id('system_id')
			.notNull()
			.references(() => system.id),
		readingId: id('reading_id')
			.notNull()
			.references(() => reading.id),
		byUserId: id('by_user_id')
			.notNull()
			.references(() => user.id),
		at: instant('at').notNull(),
		width: int('width').notNull(),
		height: int('height').notNull(),
		/** Where things are in it, as its keeper marked them. */
		marks: json('marks').$type<PhotoMarks>(),
		/** JPEG, base64; nothing once it is gone. */
		jpeg: mediumtext('jpeg').notNull(),
		/** It was deleted: its id is kept, so that a device which sends it late does not bring it back. */
		gone: boolean('gone').notNull().default(false)
	},
	(t) => [index('photo_of_reading').on(t.readingId), index('photo_of_system').on(t.systemId, t.at)]
);
