import { eq } from 'drizzle-orm';
import { good, type Outcome } from '../../../core/base';
import { mustBePerson, type Asker } from './asker';
import { succeeded, tryOnce } from './attempts';
import { auth } from './auth';
import { database } from '../db/connection';
import { user } from '../db/schema';
import { DEMO_EMAIL, isDemo } from '../demo/keeper';
import { isRefusal, said } from './refusals';

/** Asks the library something that needs the present password; wrong ones are slowed down. */
export async function withPassword<T>(asker: Asker, work: () => Promise<T>): Promise<Outcome<T>> {
	mustBePerson(asker);
	const slow = await tryOnce('again', asker.userId);
	if (slow) return slow;
	try {
		const value = await work();
		await succeeded('again', asker.userId);
		return good(value);
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return said(failure);
	}
}

/** Asks for the present password once more before something that lasts. A wrong one is a problem at `path`. */
export async function confirmed(
	asker: Asker,
	headers: Headers,
	password: string,
	path = '/present'
): Promise<Outcome<null>> {
	const done = await withPassword(asker, () => auth().api.verifyPassword({ headers, body: { password } }));
	if (done.ok) return good(null);
	return {
		ok: false,
		problems: done.problems.map((p) => (p.path === '/current' ? { ...p, path } : p))
	};
}

/** Whether this is the demo's keeper, who signs in by a button and has no password to type. */
export async function needsNoPassword(asker: Asker): Promise<boolean> {
	if (!isDemo()) return false;
	const [found] = await database().select({ email: user.email }).from(user).where(eq(user.id, asker.userId));
	return found?.email === DEMO_EMAIL;
}
