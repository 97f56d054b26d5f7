import { carbonateSystem } from '../../seawater';
import { OMEGA_TANK } from '../pour';
import type { CorrectRequest } from './schema';

/** pH where none is measured, total scale: a lit tank’s afternoon, on the safe side for saturation. */
export const USUAL_PH = 8.2;

/** Saturation of aragonite at these levels (dKH, mg/L); undefined where the carbonate system says nothing. */
export function omegaAt(water: CorrectRequest['water'], dkh: number, calcium: number): number | undefined {
	const { salinity: s, temperatureC: t, ph = USUAL_PH } = water;
	return carbonateSystem({ s, t, ph, dkh, calcium })?.omegaAragonite;
}

/**
 * At one pH saturation is calcium times a straight line of alkalinity, so the bound is a hyperbola, and what lies below its tangent lies
 * below it: alkalinity · a + calcium · c ≤ most. The tangent is taken where calcium and alkalinity stand to each other as they are wanted.
 */
export function omegaBound(
	water: CorrectRequest['water'],
	dkh: number,
	calcium: number
): { alkalinity: number; calcium: number; most: number } | undefined {
	const [one, two] = [omegaAt(water, dkh, calcium), omegaAt(water, dkh + 1, calcium)];
	if (one === undefined || two === undefined) return undefined;
	// Ω = k · calcium · (alkalinity − borate).
	const k = (two - one) / calcium;
	const borate = dkh - one / (k * calcium);
	const x = dkh - borate;
	const shift = Math.sqrt(OMEGA_TANK / (k * x * calcium));
	// The point of the hyperbola on the ray through (x, calcium).
	const [atX, atCalcium] = [x * shift, calcium * shift];
	return {
		alkalinity: 1 / atX,
		calcium: 1 / atCalcium,
		most: 2 + borate / atX
	};
}
