import Type from 'typebox';
import { bad, good, type Outcome } from '../base';

const exact = { additionalProperties: false } as const;
const cm = Type.Number({ exclusiveMinimum: 0, maximum: 2000 });
const kg = Type.Optional(Type.Number({ minimum: 0, maximum: 100_000 }));

/** What a keeper can measure with a rule and read off a receipt. Lengths inside the glass. */
export const TankSizes = Type.Object(
	{
		lengthCm: cm,
		widthCm: cm,
		/** Of the water, not of the glass. */
		depthCm: cm,
		/** Water in the sump and the pipes, L. */
		sumpL: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 })),
		/** Dry weights. */
		rockKg: kg,
		sandKg: kg
	},
	exact
);
export type TankSizes = Type.Static<typeof TankSizes>;

interface NetVolume {
	netVolumeL: number;
	grossL: number;
	displacedL: number;
	standardUncertainty: number;
}

/** Litres displaced by a kilogram of dry coral sand: aragonite, 2.93 kg/L (Deer, Howie, Zussman). */
const SAND_L_PER_KG = 1 / 2.93;
/** And of reef rock: the same mineral with pores that water does not reach, 2.5 kg/L. */
const ROCK_L_PER_KG = 1 / 2.5;
/** Standard uncertainties: a rule against glass, cm; how much of a rock's weight is closed pores or damp, a share. */
const RULE_CM = 0.3;
const DISPLACEMENT_SHARE = 0.15;

/**
 * Water in a tank from its inner sizes (cm), what the sump holds (L) and the dry weight of rock and sand (kg). Gives litres
 * with a standard uncertainty. Problems: rock and sand that would leave no water.
 *
 * @example netVolume({ lengthCm: 100, widthCm: 50, depthCm: 45, rockKg: 25 }).value.netVolumeL // → 215
 */
export function netVolume(sizes: TankSizes): Outcome<NetVolume> {
	const { lengthCm, widthCm, depthCm, sumpL = 0, rockKg = 0, sandKg = 0 } = sizes;
	const glass = (lengthCm * widthCm * depthCm) / 1000;
	const grossL = glass + sumpL;
	const displacedL = rockKg * ROCK_L_PER_KG + sandKg * SAND_L_PER_KG;
	if (displacedL >= grossL) return bad('/rockKg', 'with the sand would leave no water; check the weights');
	const ofGlass = glass * Math.hypot(RULE_CM / lengthCm, RULE_CM / widthCm, RULE_CM / depthCm);
	return good({
		netVolumeL: grossL - displacedL,
		grossL,
		displacedL,
		standardUncertainty: Math.hypot(ofGlass, DISPLACEMENT_SHARE * displacedL)
	});
}
