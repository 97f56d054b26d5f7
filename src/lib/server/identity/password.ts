import { hash, verify } from '@node-rs/argon2';
import { Unavailable } from '../db/connection';

/** Argon2id, 19 MiB, two passes, one lane: OWASP Password Storage Cheat Sheet, 2025. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** OWASP ASVS 4.0.3, 2.1.1. */
export const SHORTEST_PASSWORD = 12;
export const LONGEST_PASSWORD = 200;

/** So many hashes are worked out or wait at once; each takes memory and a core. */
const MOST_AT_ONCE = 24;
let atOnce = 0;
async function bounded<T>(work: () => Promise<T>): Promise<T> {
	if (atOnce >= MOST_AT_ONCE) throw new Unavailable(undefined, 'too many sign in at once');
	atOnce++;
	try {
		return await work();
	} finally {
		atOnce--;
	}
}

export const hashed = (password: string): Promise<string> => bounded(() => hash(password, COST));
export const matches = (known: string, password: string): Promise<boolean> =>
	bounded(() => verify(known, password));

/** Passwords that everybody tries first, read when a first one is chosen. */
let common: Promise<Set<string>> | undefined;
const commonOnes = (): Promise<Set<string>> =>
	(common ??= import('@zxcvbn-ts/language-common').then(
		({ dictionary }) =>
			new Set((dictionary['passwords-common'] as string[]).filter((word) => word.length >= 5))
	));

/**
 * What is wrong with a new password, in a sentence's end; nothing where it will do. Not its kinds of characters count but its
 * length, and that nobody guesses it (NIST SP 800-63B 3.1.1.2): no common one, nor one with a few figures behind it, nor the
 * person's own name or address.
 */
export async function flawOf(password: string, person: string[]): Promise<string | undefined> {
	if (password.length < SHORTEST_PASSWORD) return `must have at least ${SHORTEST_PASSWORD} characters`;
	if (password.length > LONGEST_PASSWORD) return `must have at most ${LONGEST_PASSWORD} characters`;
	const low = password.toLowerCase();
	const known = await commonOnes();
	const bare = low.replace(/^[\d\W_]+/, '').replace(/[\d\W_]{1,40}$/, '');
	if (known.has(low) || (bare.length < SHORTEST_PASSWORD && known.has(bare)))
		return 'is one that everybody tries first; take three or four words of your own';
	if (new Set(low).size < 5) return 'repeats itself; take three or four words of your own';
	const own = person
		.flatMap((text) => text.toLowerCase().split(/[\s@.]+/, 20))
		.filter((word) => word.length >= 4);
	const rest = own.reduce((text, word) => text.replaceAll(word, ''), low);
	if (rest.replace(/[\d\W_]/g, '').length < 4 && rest !== low)
		return 'is little more than your name or address; take three or four words of your own';
	return undefined;
}
