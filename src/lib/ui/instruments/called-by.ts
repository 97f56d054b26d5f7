import { type Method } from '$core/instruments';
import { SHIPPED_METHODS, isKnownValue } from '$core/methods';

/** What a quick line calls a kit: two of them may have one name. */
export const calledBy = (m: { id: string; profile: Method }): string =>
	isKnownValue(m.profile) ? m.profile.id : m.id;

/** Kits in the order in which they were used last (`order`, newest first), then the others as templates are listed, then values from elsewhere. */
export function usedLast<T extends { id: string; profile: Method }>(methods: T[], order: string[]): T[] {
	const shipped = SHIPPED_METHODS.map((m) => m.id);
	const rank = (m: T) =>
		order.includes(m.id) ? order.indexOf(m.id) : order.length + 1 + shipped.indexOf(m.profile.id);
	return [...methods].sort((a, b) => rank(a) - rank(b));
}
