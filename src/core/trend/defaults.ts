import { convert, isQuantity } from '../quantities';

/** How restless a parameter's water is: spread of the level, and of its daily drift, that one day adds. */
export interface Restlessness {
	/** Unit of the parameter, per square root of a day. */
	level: number;
	/** The same a day, per square root of a day. */
	drift: number;
	/** How fast it may run at first, standard deviation a day. */
	atFirst: number;
}

/**
 * What is usual, in the parameter's own unit; where there are few readings the estimate leans on it. From how far a reef
 * tank's level strays between two days when nothing is changed, and how its use grows and shrinks over weeks.
 */
const USUAL: Record<string, Restlessness & { unit: string }> = {
	alkalinity: { unit: 'dKH', level: 0.06, drift: 0.012, atFirst: 0.25 },
	calcium: { unit: 'mg/L', level: 1.2, drift: 0.1, atFirst: 2.5 },
	magnesium: { unit: 'mg/L', level: 2.5, drift: 0.15, atFirst: 3 },
	potassium: { unit: 'mg/L', level: 1.5, drift: 0.08, atFirst: 2 },
	nitrate: { unit: 'mg/L NO3', level: 0.35, drift: 0.03, atFirst: 0.5 },
	phosphate: { unit: 'mg/L PO4', level: 0.005, drift: 0.0004, atFirst: 0.004 },
	ammonia: { unit: 'mg/L NH4', level: 0.05, drift: 0.01, atFirst: 0.1 },
	nitrite: { unit: 'mg/L NO2', level: 0.05, drift: 0.01, atFirst: 0.1 },
	salinity: { unit: 'PSU', level: 0.1, drift: 0.005, atFirst: 0.1 },
	ph: { unit: 'pH', level: 0.04, drift: 0.002, atFirst: 0.02 },
	temperature: { unit: 'C', level: 0.2, drift: 0.005, atFirst: 0.1 },
	hardness: { unit: 'dGH', level: 2, drift: 0.1, atFirst: 2 },
	iodine: { unit: 'mg/L', level: 0.003, drift: 0.0003, atFirst: 0.004 },
	iron: { unit: 'mg/L', level: 0.004, drift: 0.0003, atFirst: 0.004 },
	strontium: { unit: 'mg/L', level: 0.15, drift: 0.01, atFirst: 0.15 },
	silicate: { unit: 'mg/L', level: 0.05, drift: 0.004, atFirst: 0.05 }
};

/** Of the keeper's own parameters nothing is known: shares of their usual level. */
const SHARE = { level: 0.01, drift: 0.001, atFirst: 0.01 };

/** What is usual for a parameter in a unit; `typical` is a level to take shares of where nothing is known. */
export function usualRestlessness(parameter: string, unit: string, typical: number): Restlessness {
	const usual = USUAL[parameter];
	const factor = usual && isQuantity(parameter) ? widthIn(parameter, usual.unit, unit, typical) : undefined;
	if (usual && factor)
		return { level: usual.level * factor, drift: usual.drift * factor, atFirst: usual.atFirst * factor };
	const size = Math.max(Math.abs(typical), 1e-6);
	return { level: SHARE.level * size, drift: SHARE.drift * size, atFirst: SHARE.atFirst * size };
}

/** How wide one step of a unit is in another, near a level given in the latter. */
function widthIn(
	parameter: Parameters<typeof convert>[0]['quantity'],
	from: string,
	to: string,
	near: number
): number | undefined {
	if (from === to) return 1;
	const there = convert({ quantity: parameter, value: near, from: to, to: from });
	if (!there.ok) return undefined;
	const [a, b] = [there.value.value, there.value.value + 1].map((value) =>
		convert({ quantity: parameter, value, from, to })
	);
	return a?.ok && b?.ok ? Math.abs(b.value.value - a.value.value) : undefined;
}
