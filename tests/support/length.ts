/** How often something is tried by chance: as often as `tevrik test` has time for, or, in `tevrik bench`, as long as it takes. */
export const tries = (short: number, long: number): number => (process.env['TEVRIK_LONG'] ? long : short);
