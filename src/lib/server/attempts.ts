import { RateLimiterMySQL, type RateLimiterRes } from 'rate-limiter-flexible';
import { bad, type Outcome } from '../../core/problems';
import { databaseName, rawPool } from './db/connection';

/** Tries, over so many seconds, and how long nothing goes after that, s. OWASP Authentication Cheat Sheet: slow, do not lock out. */
const LIMITS = {
	/** Wrong passwords for one address from one place. */
	signIn: { points: 5, duration: 15 * 60, blockDuration: 5 * 60 },
	/** Wrong passwords from one place, whatever the address. */
	place: { points: 60, duration: 60 * 60, blockDuration: 15 * 60 },
	/** New accounts and forgotten passwords from one place. */
	asking: { points: 30, duration: 60 * 60, blockDuration: 15 * 60 }
};
type Kind = keyof typeof LIMITS;

const made = new Map<Kind, RateLimiterMySQL>();
function limiter(kind: Kind): RateLimiterMySQL {
	const known =
		made.get(kind) ??
		new RateLimiterMySQL({
			...LIMITS[kind],
			storeClient: rawPool(),
			dbName: databaseName(),
			tableName: 'attempt',
			tableCreated: true,
			keyPrefix: kind
		});
	made.set(kind, known);
	return known;
}

/** Counts one try; a problem that says how long to wait where there were too many. */
export async function tryOnce(kind: Kind, key: string): Promise<Outcome<never> | undefined> {
	try {
		await limiter(kind).consume(key);
		return undefined;
	} catch (failure) {
		if (failure instanceof Error) throw failure;
		const minutes = Math.max(1, Math.ceil((failure as RateLimiterRes).msBeforeNext / 60_000));
		return bad('', `Too many tries. Wait ${minutes} minute${minutes === 1 ? '' : 's'}, then try again.`);
	}
}

/** It was no failure after all: it does not count. */
export async function forgive(kind: Kind, key: string): Promise<void> {
	if (kind === 'signIn') await limiter(kind).delete(key);
	else await limiter(kind).reward(key, 1);
}
