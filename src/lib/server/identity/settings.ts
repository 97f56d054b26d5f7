import { MINUTE } from '../../../core/base';
import { and, eq, ne } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { mustOperate, type Asker } from './asker';
import { now } from '../clock';
import { DUPLICATE, database, errnoOf, transaction, type Connection } from '../db/connection';
import { setting, user } from '../db/schema';
import { DEMO_EMAIL } from '../demo/keeper';

const OPEN_SIGN_UP = 'open sign-up';

/** Whether anyone may make an account; without it only whoever was invited. */
export async function signUpIsOpen(): Promise<boolean> {
	const [found] = await database().select().from(setting).where(eq(setting.name, OPEN_SIGN_UP));
	return found?.value === true;
}

const FIRST = 'first account';
/** Whoever has claimed the first account makes it within this, ms; a claim that is older was left behind by a crash. */
const CLAIM_LASTS = MINUTE;
interface Claim {
	by: string;
	at: number;
	made: boolean;
}

/**
 * The right to make the first account and run the server: one asker in all processes gets it, as a claim to make good or give back.
 * Nothing for the others. A row of one name can be written once.
 */
export async function claimFirst(): Promise<string | undefined> {
	const by = uuid();
	const value: Claim = { by, at: now().getTime(), made: false };
	return transaction(async (db) => {
		const row = eq(setting.name, FIRST);
		const [held] = await db.select().from(setting).where(row).for('update');
		const claim = held?.value as Claim | undefined;
		if (claim && !claim.made && value.at - claim.at < CLAIM_LASTS) return undefined;
		if (claim?.made && !(await noOperator(db))) return undefined;
		if (claim) await db.update(setting).set({ value }).where(row);
		else await db.insert(setting).values({ name: FIRST, value });
		return by;
	}).catch((failure: unknown) => {
		if (errnoOf(failure) === DUPLICATE) return undefined;
		throw failure;
	});
}
const noOperator = async (db: Connection): Promise<boolean> =>
	(
		await db
			.select({ id: user.id })
			.from(user)
			.where(and(eq(user.operator, true), ne(user.email, DEMO_EMAIL)))
			.limit(1)
	).length === 0;

/** The claim is made good: this person runs the server, and the demo's keeper no longer does. */
export async function makeOperator(userId: string, by: string): Promise<void> {
	await transaction(async (db) => {
		await db.update(user).set({ operator: false }).where(eq(user.email, DEMO_EMAIL));
		await db.update(user).set({ operator: true }).where(eq(user.id, userId));
		await db
			.update(setting)
			.set({ value: { by, at: now().getTime(), made: true } satisfies Claim })
			.where(eq(setting.name, FIRST));
	});
}

/** It was not made after all: the next may. */
export async function releaseFirst(by: string): Promise<void> {
	await transaction(async (db) => {
		const [held] = await db.select().from(setting).where(eq(setting.name, FIRST)).for('update');
		if ((held?.value as Claim | undefined)?.by === by)
			await db.delete(setting).where(eq(setting.name, FIRST));
	});
}

export async function openSignUp(asker: Asker, open: boolean): Promise<void> {
	await mustOperate(asker);
	await database()
		.insert(setting)
		.values({ name: OPEN_SIGN_UP, value: open })
		.onDuplicateKeyUpdate({ set: { value: open } });
}
