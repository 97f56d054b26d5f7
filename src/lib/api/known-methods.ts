import { SHIPPED_METHODS, type Method } from '../../core/methods';

/** A method as it goes to a page: one that comes with the application goes by its id, since the page has its words. */
export type Sent<T extends { profile: Method }> = Omit<T, 'profile'> & { profile: Method | string };

const shipped = new Map<string, Method>(SHIPPED_METHODS.map((m) => [m.id, m]));
/** Whether a stored profile says what the shipped one of its id says; worked out once for each. */
const known = new WeakMap<Method, boolean>();
function isKnown(profile: Method): boolean {
	let same = known.get(profile);
	if (same === undefined) {
		same = JSON.stringify(profile) === JSON.stringify(shipped.get(profile.id));
		known.set(profile, same);
	}
	return same;
}

export const toSend = <T extends { profile: Method }>(methods: T[]): Sent<T>[] =>
	methods.map((m) => (isKnown(m.profile) ? { ...m, profile: m.profile.id } : m));

/** The same with their profiles again. A page of an older build does not know a new one: it is left out until the page is new. */
export const received = <T extends { profile: Method }>(methods: Sent<T>[]): T[] =>
	methods.flatMap((m) => {
		const profile = typeof m.profile === 'string' ? shipped.get(m.profile) : m.profile;
		return profile ? [{ ...m, profile } as T] : [];
	});
