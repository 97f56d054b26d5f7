/** Addresses of a session that is already chosen: each kit twice, on the tank's own water or on one that is known. */
const benchAt = (system: string, entries: string[]): string =>
	`/s/${system}/bench?tests=${entries.flatMap((e) => [e, e]).join('+')}`;

/** One water by these kits, each twice: is it the hand, is it the kit, is it the water? */
export const sameWaterHref = (system: string, kits: string[]): string => benchAt(system, kits);

/** A kit with water whose content is known. */
export const checkHref = (system: string, kit: string, source: string): string =>
	benchAt(system, [`${kit}@${source}`]);
