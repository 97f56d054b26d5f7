import { and, eq } from 'drizzle-orm';
import { database, transaction } from '../db/connection';
import { apiToken, session, user, verification } from '../db/schema';
import { touch } from '../db/stamps';
import { sendMail } from './mail';

const NOT_YOU =
	'If it was not you, choose a new password at once and look through the devices on your account page.';

/** Tells a person by mail that something about their account has changed. */
export async function notify(userId: string, subject: string, lines: string[]): Promise<void> {
	const [person] = await database().select({ email: user.email }).from(user).where(eq(user.id, userId));
	if (person) await sendMail(person.email, subject, [...lines, NOT_YOU]);
}

/** Links for a new password that were sent to a person open nothing any more. */
export const endLinksOf = async (userId: string): Promise<void> =>
	void (await database().delete(verification).where(eq(verification.value, userId)));

/** Signs a person out everywhere. */
export const endEverySession = (userId: string): Promise<void> =>
	transaction(async (db) => {
		await db.delete(session).where(eq(session.userId, userId));
		await touch(db, [userId]);
	});

/** Whatever follows from a new password: tokens that were to end with the old one, links that wait, a note to its person. */
export async function passwordChanged(userId: string): Promise<void> {
	// Other sessions have ended with it: what is remembered of them is of before.
	await touch(database(), [userId]);
	// Tokens that were to end with the old one.
	await database()
		.delete(apiToken)
		.where(and(eq(apiToken.userId, userId), eq(apiToken.endsWithPassword, true)));
	await endLinksOf(userId);
	await notify(userId, 'Your password for Tevrik is new', [
		'The password of your account was changed, and every other device was signed out.'
	]);
}
