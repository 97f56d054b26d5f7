import Type from 'typebox';
import { bad, good, type Outcome } from '../base';
import { normalBelow } from '../statistics';
import { NBS_ABOVE_TOTAL } from './ammonia';
import { phOf } from './carbon';
import { seawater } from './seawater';

const exact = { additionalProperties: false } as const;
const error = Type.Optional(Type.Number({ minimum: 0, maximum: 100 }));

export const LowPhRequest = Type.Object(
	{
		ph: Type.Number({ minimum: 6.5, maximum: 9.5 }),
		phScale: Type.Optional(Type.Unsafe<'total' | 'NBS'>({ type: 'string', enum: ['total', 'NBS'] })),
		/** dKH */
		alkalinity: Type.Number({ exclusiveMinimum: 0, maximum: 30 }),
		/** PSU */
		salinity: Type.Number({ minimum: 19, maximum: 43 }),
		temperatureC: Type.Number({ minimum: 0, maximum: 40 }),
		standardUncertainty: Type.Optional(
			Type.Object({ ph: error, alkalinity: error, salinity: error, temperatureC: error }, exact)
		),
		/** What the keeper calls fine; sea water's usual range where left out. */
		band: Type.Optional(Type.Object({ lower: Type.Number(), upper: Type.Number() }, exact)),
		alkalinityBand: Type.Optional(Type.Object({ lower: Type.Number(), upper: Type.Number() }, exact))
	},
	exact
);
export type LowPhRequest = Type.Static<typeof LowPhRequest>;

export const LowPhResult = Type.Object(
	{
		/** Carbon dioxide the water stands under, µatm, and its standard uncertainty. */
		pco2: Type.Object({ value: Type.Number(), standardUncertainty: Type.Number() }, exact),
		/** pH this water would have in fresh air, on the scale that was given. */
		inFreshAir: Type.Number(),
		/** That it holds more carbon dioxide than a room people sit in. */
		chance: Type.Number(),
		verdict: Type.Unsafe<'not-low' | 'carbon-dioxide' | 'alkalinity' | 'both' | 'unsure'>({
			type: 'string',
			enum: ['not-low', 'carbon-dioxide', 'alkalinity', 'both', 'unsure']
		})
	},
	exact
);
export type LowPhResult = Type.Static<typeof LowPhResult>;

/** µatm outdoors (NOAA, yearly mean of 2024: 422.7 ppm). */
const FRESH_AIR = 423;
/** µatm above which water holds more than fresh air explains: half as much again (indoor air is seldom below 600). */
const TOO_MUCH = 650;
const BANDS = { ph: { lower: 7.8, upper: 8.4 }, alkalinity: { lower: 6.5, upper: 11 } };
const SURE = 5 / 6;

/**
 * Why pH is low: with fine alkalinity it is carbon dioxide from the room, and fresh air helps before any bottle; where it would be low in
 * fresh air too, alkalinity is. Carbonate system with errors; constants as in `seawater`.
 *
 * @example lowPh({ ph: 7.75, alkalinity: 8, salinity: 35, temperatureC: 25 }).value.verdict // → 'carbon-dioxide'
 */
export function lowPh(request: LowPhRequest): Outcome<LowPhResult> {
	const { ph, phScale = 'NBS', alkalinity, salinity, temperatureC, standardUncertainty } = request;
	const band = request.band ?? BANDS.ph;
	const alkalinityBand = request.alkalinityBand ?? BANDS.alkalinity;
	const water = seawater({
		salinity: { value: salinity, unit: 'PSU' },
		temperatureC,
		ph,
		phScale,
		alkalinity,
		...(standardUncertainty ? { standardUncertainty } : {})
	});
	if (!water.ok) return water;
	const { carbonate } = water.value;
	const fresh = phOf({ s: salinity, t: temperatureC, dkh: alkalinity }, 'pco2', FRESH_AIR);
	if (!carbonate || fresh === undefined) return bad('/alkalinity', 'is too little to say anything');
	const inFreshAir = fresh + (phScale === 'NBS' ? NBS_ABOVE_TOTAL : 0);
	const u = carbonate.standardUncertainty?.['pco2'] ?? 0;
	// Of carbon dioxide the logarithm is a bell: pH is one.
	const spread = Math.max(u / carbonate.pco2, 1e-6);
	const chance = normalBelow(Math.log(carbonate.pco2 / TOO_MUCH) / spread);
	const verdict =
		ph >= band.lower
			? 'not-low'
			: alkalinity < alkalinityBand.lower || inFreshAir < band.lower
				? chance > SURE
					? 'both'
					: 'alkalinity'
				: chance > SURE
					? 'carbon-dioxide'
					: 'unsure';
	return good({
		pco2: { value: carbonate.pco2, standardUncertainty: u },
		inFreshAir,
		chance,
		verdict
	});
}
