import { type Method } from '../../core/instruments';
import { SHIPPED_METHODS, hasOwnChart, withOwnChart } from '../../core/methods';

/** A method as it goes to a page: one whose words the page has goes by its id, `own` where its chart is the keeper's. */
export type Sent<T extends { profile: Method }> = Omit<T, 'profile'> & {
	profile: Method | string;
	charted?: true;
};

const shipped = new Map<string, Method>(SHIPPED_METHODS.map((m) => [m.id, m]));
const charted = new Map<string, Method>(SHIPPED_METHODS.map((m) => [m.id, withOwnChart(m)]));
/** What a stored profile says as a shipped one does, with its chart or as the keeper's; worked out once for each. */
const known = new WeakMap<Method, Pick<Sent<{ profile: Method }>, 'profile' | 'charted'>>();
function sentAs(profile: Method): Pick<Sent<{ profile: Method }>, 'profile' | 'charted'> {
	let sent = known.get(profile);
	if (sent === undefined) {
		const own = hasOwnChart(profile);
		const words = (own ? charted : shipped).get(profile.id);
		sent =
			JSON.stringify(profile) === JSON.stringify(words)
				? { profile: profile.id, ...(own ? { charted: true } : {}) }
				: { profile };
		known.set(profile, sent);
	}
	return sent;
}

export const toSend = <T extends { profile: Method }>(methods: T[]): Sent<T>[] =>
	methods.map((m) => ({ ...m, ...sentAs(m.profile) }));

/** The same with their profiles again. A page of an older build does not know a new one: it is left out until the page is new. */
export const received = <T extends { profile: Method }>(methods: Sent<T>[]): T[] =>
	methods.flatMap(({ charted: own, ...m }) => {
		const profile = typeof m.profile === 'string' ? (own ? charted : shipped).get(m.profile) : m.profile;
		return profile ? [{ ...m, profile } as unknown as T] : [];
	});
