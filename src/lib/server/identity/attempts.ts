import ipaddr from 'ipaddr.js';
import { RateLimiterMemory, RateLimiterMySQL, RateLimiterRes } from 'rate-limiter-flexible';
import { bad, type Outcome } from '../../../core/base';
import { tooOften, type Limit } from '../http/answer';
import { Unavailable, again, databaseName, isUnavailable, callbackPool } from '../db/connection';

/**
 * Tries are slowed down, not locked out (OWASP Authentication Cheat Sheet): so many are free within a time, then each has to wait
 * twice as long as the one before, up to the longest. Seconds.
 */
const RULES = {
	/** Wrong passwords or codes for one account from one place. */
	here: { free: 5, within: 24 * 3600, longest: 15 * 60 },
	/** For one account from wherever it has never signed in before: its person is not kept out by others for long. */
	anywhere: { free: 20, within: 3600, longest: 60 },
	/** New accounts, forgotten passwords and invitations asked for from one place. */
	asking: { free: 30, within: 3600, longest: 10 * 60 },
	/** The present password, asked again of somebody who is signed in. */
	again: { free: 5, within: 3600, longest: 15 * 60 }
};
export type Kind = keyof typeof RULES;

/** Tries from one place, whoever's: past so many in an hour each answer comes late, so that a household is never locked out. */
const PLACE = { free: 100, within: 3600, late: 1500 };

/** Counters that are asked longer than this are not there, ms. */
const PATIENCE = 5000;

const made = new Map<string, RateLimiterMySQL>();
function limiter(name: string, options: { points: number; duration: number }): RateLimiterMySQL {
	const known =
		made.get(name) ??
		new RateLimiterMySQL({
			...options,
			storeClient: callbackPool(),
			storeType: 'pool',
			dbName: databaseName(),
			tableName: 'attempt',
			tableCreated: true,
			keyPrefix: name
		});
	made.set(name, known);
	return known;
}
/** How often something was tried. */
const counts = (kind: Kind | 'place') =>
	limiter(kind, { points: 1_000_000, duration: kind === 'place' ? PLACE.within : RULES[kind].within });
/** Whether one try may be made now. */
const turns = (kind: Kind) => limiter(`${kind} wait`, { points: 1, duration: RULES[kind].longest });

/** One step of a counter: several processes and machines count in the same row, so it may have to be done again. */
async function step<T>(work: () => Promise<T>): Promise<T> {
	let timer: ReturnType<typeof setTimeout> | undefined;
	const late = new Promise<never>((_, refuse) => {
		timer = setTimeout(() => refuse(new Unavailable(undefined, 'tries cannot be counted')), PATIENCE);
	});
	try {
		return await Promise.race([again(work, true), late]);
	} catch (failure) {
		if (isUnavailable(failure)) throw new Unavailable(failure);
		throw failure;
	} finally {
		clearTimeout(timer);
	}
}

/** Counts one try before it is made; a problem that says how long to wait where there were too many. */
export async function tryOnce(kind: Kind, key: string): Promise<Outcome<never> | undefined> {
	const { free, longest } = RULES[kind];
	const { consumedPoints } = await step(() => counts(kind).consume(key));
	if (consumedPoints <= free) return undefined;
	const wait = Math.min(longest, 2 ** Math.min(20, consumedPoints - free));
	try {
		await step(() => turns(kind).consume(key, 1, { customDuration: wait }));
		return undefined;
	} catch (refused) {
		if (!(refused instanceof RateLimiterRes)) throw refused;
		// It was not tried, so it makes nobody wait longer.
		await step(() => counts(kind).reward(key, 1));
		return bad('', `Too many tries. Wait ${inWords(refused.msBeforeNext)}, then try again.`);
	}
}
const inWords = (ms: number): string => {
	const seconds = Math.max(1, Math.ceil(ms / 1000));
	if (seconds < 90) return `${seconds} ${seconds === 1 ? 'second' : 'seconds'}`;
	return `${Math.ceil(seconds / 60)} minutes`;
};

/** It was right after all: what was counted for it is forgotten. */
export async function succeeded(kind: Kind, key: string): Promise<void> {
	await step(() => counts(kind).delete(key));
	await step(() => turns(kind).delete(key));
}

/** It was right, which says nothing of the wrong ones before it: only this one is not counted. */
export async function wasRight(kind: Kind, key: string): Promise<void> {
	await step(() => counts(kind).reward(key, 1));
}

/** Counts a try from a place, and where there were very many makes it late. */
export async function fromPlace(place: string): Promise<void> {
	const { consumedPoints } = await step(() => counts('place').consume(place));
	if (consumedPoints > PLACE.free) await new Promise((done) => setTimeout(done, PLACE.late));
}

/** A code of an authenticator is taken at most so long after it was first shown, s: three steps of 30 (RFC 6238, 5.2). */
const CODE_LASTS = 120;

/**
 * Notes that a person has sent a code, before it is looked at: whether that is the first time. Whoever looked over their shoulder has
 * the same code and is second (RFC 6238, 5.2: a verifier must not accept a second use).
 */
export async function firstUseOf(code: string, userId: string): Promise<boolean> {
	try {
		await step(() => limiter('code', { points: 1, duration: CODE_LASTS }).consume(`${userId} ${code}`));
		return true;
	} catch (refused) {
		if (!(refused instanceof RateLimiterRes)) throw refused;
		return false;
	}
}

/** Whoever shares this shares tries: an address, or of IPv6 the network that one household has (RFC 6177: /64). */
export function placeOf(address: string): string {
	if (!ipaddr.isValid(address)) return address.slice(0, 60);
	const found = ipaddr.process(address);
	if (found.kind() === 'ipv4') return found.toString();
	return `${(found as ipaddr.IPv6).parts
		.slice(0, 4)
		.map((part) => part.toString(16))
		.join(':')}::/64`;
}

/** What is dear, in so many seconds: of one stranger's place, and of one person with an account. Counted here, not in the database. */
const DEAR = {
	calculationsOfStranger: new RateLimiterMemory({ points: 120, duration: 60 }),
	calculations: new RateLimiterMemory({ points: 1200, duration: 60 }),
	// One takes half a second; whoever moves glasses about asks for one every few seconds.
	plans: new RateLimiterMemory({ points: 60, duration: 60 }),
	// A run has a dozen; a device that was away brings those of a week.
	pictures: new RateLimiterMemory({ points: 120, duration: 3600 }),
	picturesOfTank: new RateLimiterMemory({ points: 240, duration: 24 * 3600 })
};

/** Counts one dear thing: what is left of it, or 429 with what is said where nothing is. */
async function counted(
	kind: keyof typeof DEAR,
	who: string,
	sentence: (seconds: number) => string
): Promise<Limit> {
	const { points: most, duration: within } = DEAR[kind];
	const limit = ({ remainingPoints, msBeforeNext }: RateLimiterRes): Limit => ({
		name: kind,
		most,
		within,
		left: remainingPoints,
		again: Math.max(1, Math.ceil(msBeforeNext / 1000))
	});
	try {
		return limit(await DEAR[kind].consume(who));
	} catch (failure) {
		if (!(failure instanceof RateLimiterRes)) throw failure;
		const used = limit(failure);
		return tooOften(sentence(used.again), { ...used, left: 0 });
	}
}

/** One calculation more: what is left of them, or 429. */
export const mayCalculate = (who: string, known: boolean): Promise<Limit> =>
	counted(
		known ? 'calculations' : 'calculationsOfStranger',
		known ? who : placeOf(who),
		(seconds) => `Too many calculations in a minute. Come back in ${seconds} s, or use ./tevrik calc.`
	);

/** The same of plans that have to be made. */
export const mayAskForPlan = (userId: string): Promise<Limit> =>
	counted('plans', userId, (seconds) => `Too many plans in a minute. Ask again in ${seconds} s.`);

/** The same of pictures: of a person, and of a tank by whoever sends them. */
export async function mayAddPicture(userId: string, systemId: string): Promise<Limit> {
	await counted('pictures', userId, later);
	return counted('picturesOfTank', systemId, later);
}
const later = (seconds: number): string =>
	`Too many pictures for now. They wait on this device; the next is taken in ${inWords(1000 * seconds)}.`;
