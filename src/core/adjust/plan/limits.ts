/** Shares and names that more than one part of a plan goes by. */

/** A normal's 95 % and 99 % on one side. */
export const Z95 = 1.645;
export const Z99 = 2.326;
/** Half of the way from the ideal to an edge: where a level is wanted, so that noise does not carry it out. */
export const INNER = 0.5;
/** Of a healthy day, so that a net volume that is a tenth less does not make it too much. */
export const CAREFUL = 0.8;
/** Ions that go with sea salt: what thickens or thins salinity does so to them. */
export const IONS = ['alkalinity', 'calcium', 'magnesium', 'potassium', 'strontium'];
/** What new water holds none of, unless it is said to. */
export const FOOD = ['nitrate', 'phosphate'];
