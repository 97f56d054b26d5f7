/**
 * Reference sea water at 35 PSU, per kg of it: ions in mg (Millero et al. 2008, Deep-Sea Res. I 55, 50, table 4), alkalinity in meq. What is
 * dissolved goes with salinity, and a dry mix is made to be like it.
 */
export const SEA_PSU = 35;
export const SEA_IONS: Record<string, number> = {
	calcium: 412,
	magnesium: 1284,
	potassium: 399,
	strontium: 7.9
};
export const SEA_ALKALINITY = 2.3;
