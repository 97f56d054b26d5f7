/** Molar masses in g/mol: IUPAC 2021 abridged standard atomic weights and what is built from them. */
export const ATOM = {
	H: 1.008,
	C: 12.011,
	N: 14.007,
	O: 15.999,
	Na: 22.99,
	Mg: 24.305,
	Si: 28.085,
	P: 30.974,
	S: 32.06,
	Cl: 35.45,
	K: 39.0983,
	Ca: 40.078,
	Fe: 55.845,
	Sr: 87.62,
	I: 126.9
} as const;

export const MOLECULE = {
	CaO: ATOM.Ca + ATOM.O,
	CaCO3: ATOM.Ca + ATOM.C + 3 * ATOM.O,
	NO3: ATOM.N + 3 * ATOM.O,
	NO2: ATOM.N + 2 * ATOM.O,
	NH3: ATOM.N + 3 * ATOM.H,
	NH4: ATOM.N + 4 * ATOM.H,
	PO4: ATOM.P + 4 * ATOM.O,
	SiO2: ATOM.Si + 2 * ATOM.O
} as const;

/** mg/L of CaO in one German degree, of carbonate hardness as of general hardness (by definition). */
export const CAO_PER_DEGREE = 10;

/** Calcium bound with one dKH of alkalinity, mg/L: CaCO3 takes one Ca for two equivalents (7.15). */
export const CALCIUM_PER_DKH = (CAO_PER_DEGREE / MOLECULE.CaO) * ATOM.Ca;
