import type { PlanStep, Supplement } from '../../../core/adjust';
import { createHash, randomBytes } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { createEvents, type EventAttributes } from 'ics';
import { DateTime } from 'luxon';
import { nameInSentence } from '../../../core/catalogue';
import { dueTogether, type DueReason } from '../../../core/targets';
import type { Habits } from '../../api/habits';
import { mustBePerson, type Asker } from '../identity/asker';
import { now } from '../clock';
import { database } from '../db/connection';
import { log } from '../log';
import { user } from '../db/schema';
import { derivedSecret, tokenHash } from '../identity/secret';
import { habitsOf } from '../stores/habits';
import { systemFor, systemsOf } from '../stores/systems';
import { asked } from '../http/asked';
import { openSteps } from '../stores/plans';
import { outlookOf } from './outlook';

/** Sessions begin at this hour of the tank's clock, where a person chose none. */
export const REMIND_AT = '19:00';
/** As far ahead as reminders are worth writing down, days. */
const AHEAD = 60;

/**
 * The secret part of this person's calendar address, made when it is first asked for; `anew` makes the old one useless. It follows
 * from a nonce and the server's secret, and only its hash is kept beside the nonce. Nothing where an address is older than that: it
 * works on, but nobody can say it again.
 */
export async function calendarToken(asker: Asker, anew = false): Promise<string | undefined> {
	mustBePerson(asker);
	const db = database();
	const [held] = await db
		.select({ nonce: user.calendarNonce, hash: user.calendarHash })
		.from(user)
		.where(eq(user.id, asker.userId));
	if (held?.hash && !anew) return held.nonce ? tokenOf(held.nonce) : undefined;
	const nonce = randomBytes(16).toString('base64url');
	await db
		.update(user)
		.set({ calendarNonce: nonce, calendarHash: tokenHash(tokenOf(nonce)) })
		.where(eq(user.id, asker.userId));
	return tokenOf(nonce);
}
const tokenOf = (nonce: string): string => derivedSecret(`calendar ${nonce}`);

/** The calendar behind a secret address, or nothing where nobody has it. */
export async function calendarBehind(token: string, says: CalendarWords): Promise<string | undefined> {
	const [owner] = await database()
		.select({ id: user.id })
		.from(user)
		.where(eq(user.calendarHash, tokenHash(token)));
	return owner && calendarOf({ userId: owner.id }, says);
}

/** What a step of a plan is called, what holds for all of them, and why a test is due: words are not the server's. */
interface CalendarWords {
	step: (step: PlanStep, supplement: Supplement | undefined) => string;
	always: string;
	due: (why: DueReason, now: string, timeZone: string) => string;
}

/** One event before it is stamped, at the hour this person chose on its tank's day. */
interface Told {
	uid: string;
	title: string;
	description: string;
	day: DateTime;
	duration: { minutes: number };
}

/** Sessions of all this person's tanks, and what their plans pour, as iCalendar (RFC 5545): instants in UTC, each at its tank's own hour. */
export async function calendarOf(asker: Asker, says: CalendarWords): Promise<string> {
	const habits = await habitsOf(asker);
	const told: Told[] = [];
	for (const { id } of await systemsOf(asker))
		told.push(...(await sessionsOf(asker, id, habits, says)), ...(await poursOf(asker, id, habits, says)));
	if (!told.length) return EMPTY;
	const [hour, minute] = (habits.remindAt ?? REMIND_AT).split(':').map(Number);
	const events = told.map(({ day, ...event }): EventAttributes => {
		const start = day.set({ hour: hour!, minute: minute! }).toUTC();
		return {
			...event,
			start: [start.year, start.month, start.day, start.hour, start.minute],
			startInputType: 'utc',
			startOutputType: 'utc',
			productId: PRODUCT,
			calName: 'Tevrik'
		};
	});
	const { error, value } = createEvents(await stamped(asker, events));
	if (error || !value) throw error ?? new Error('no calendar was made');
	return value;
}

/** Tests that are due together, by session. */
async function sessionsOf(asker: Asker, id: string, habits: Habits, says: CalendarWords): Promise<Told[]> {
	const [system, { due }] = await Promise.all([systemFor(asker, id), outlookOf(asker, id)]);
	const today = DateTime.fromJSDate(now(), { zone: system.timeZone }).startOf('day');
	/** As of the session's own day: an event stays as it is until then. */
	const whyOf = ({ why }: { why: DueReason }, day: DateTime) =>
		asked.run(habits, () => says.due(why, day.toJSDate().toISOString(), system.timeZone));
	const dayOf = ({ at }: { at: string }) =>
		Math.round(DateTime.fromISO(at, { zone: system.timeZone }).startOf('day').diff(today, 'days').days);
	return dueTogether(due, dayOf, AHEAD).map(({ day: days, tests }) => {
		const day = today.plus({ days });
		const names = tests.map((t) => nameInSentence(t.parameter));
		return {
			uid: `${id}-${day.toISODate()}@tevrik`,
			title: `${system.name}: test ${names.join(', ')}`,
			description: tests.map((t, i) => `${names[i]}: ${whyOf(t, day)}`).join('\n'),
			day,
			duration: { minutes: 45 }
		};
	});
}

/** What the plan that is followed pours, by day. */
async function poursOf(asker: Asker, id: string, habits: Habits, says: CalendarWords): Promise<Told[]> {
	const system = await systemFor(asker, id);
	const last = DateTime.fromJSDate(now(), { zone: system.timeZone }).plus({ days: AHEAD });
	const open = await openSteps(asker, id, last.toISODate() ?? '');
	if (!open) return [];
	const inWords = (step: PlanStep) =>
		asked.run(habits, () =>
			says.step(
				step,
				open.request.supplements.find((s) => s.id === step.supplement)
			)
		);
	return [...new Set(open.steps.map((s) => s.date))].map((date) => ({
		uid: `${id}-pour-${date}@tevrik`,
		title: `${system.name}: ${open.steps.flatMap((s) => (s.date === date ? [inWords(s.step)] : [])).join(', ')}`,
		description: says.always,
		day: DateTime.fromISO(date, { zone: system.timeZone }),
		duration: { minutes: 15 }
	}));
}

/**
 * With the moment each was last changed (DTSTAMP; RFC 5545, 3.8.7.2): readers take an event in anew where it is another. It is known
 * by what this person's calendar told last.
 */
async function stamped({ userId }: Asker, events: EventAttributes[]): Promise<EventAttributes[]> {
	const theirs = eq(user.id, userId);
	const db = database();
	const [held] = await db.select({ told: user.calendarTold }).from(user).where(theirs);
	const before = held?.told ?? {};
	const at = now().toISOString();
	const told = Object.fromEntries(
		events.map((event): [string, [string, string]] => {
			const hash = createHash('sha256').update(JSON.stringify(event)).digest('base64url').slice(0, 16);
			const known = before[event.uid!];
			return [event.uid!, known?.[0] === hash ? known : [hash, at]];
		})
	);
	if (Object.values(told).some(([, since]) => since === at))
		// A full disk keeps no dates, and nobody from their calendar.
		await db
			.update(user)
			.set({ calendarTold: told })
			.where(theirs)
			.catch((failure: unknown) => log.warn({ err: failure }, 'what a calendar told was not kept'));
	return events.map((event) => ({ ...event, timestamp: Date.parse(told[event.uid!]![1]) }));
}

/** Who made it, as a formal public identifier (ISO 9070), which RFC 5545 (3.7.3) asks for. */
const PRODUCT = '-//Tevrik//Tevrik 1//EN';
const EMPTY = ['BEGIN:VCALENDAR', 'VERSION:2.0', `PRODID:${PRODUCT}`, 'END:VCALENDAR', ''].join('\r\n');
