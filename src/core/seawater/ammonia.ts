import Type from 'typebox';
import { bad, good, type Outcome } from '../base';
import { convert } from '../quantities';

const exact = { additionalProperties: false } as const;
const error = Type.Optional(Type.Number({ minimum: 0, maximum: 100 }));

export const AmmoniaRequest = Type.Object(
	{
		/** Ammonia and ammonium together, as a kit gives it. */
		total: Type.Number({ minimum: 0, maximum: 1000 }),
		unit: Type.Unsafe<'mg/L NH3' | 'mg/L NH4' | 'mg/L NH-N'>({
			type: 'string',
			enum: ['mg/L NH3', 'mg/L NH4', 'mg/L NH-N']
		}),
		ph: Type.Number({ minimum: 5, maximum: 10.5 }),
		/** What the pH is of: a pen on NBS buffers, or the total scale. */
		scale: Type.Optional(Type.Unsafe<'NBS' | 'total'>({ type: 'string', enum: ['NBS', 'total'] })),
		temperatureC: Type.Number({ minimum: 0, maximum: 40 }),
		salinity: Type.Number({ minimum: 0, maximum: 50 }),
		/** Standard uncertainties of each; without them 0.1 pH, 0.5 C, 1 PSU and a tenth of the total. */
		standardUncertainty: Type.Optional(
			Type.Object({ total: error, ph: error, temperatureC: error, salinity: error }, exact)
		)
	},
	exact
);
export type AmmoniaRequest = Type.Static<typeof AmmoniaRequest>;

export const AmmoniaResult = Type.Object(
	{
		/** mg/L NH3. */
		unionised: Type.Object({ value: Type.Number(), standardUncertainty: Type.Number() }, exact),
		/** Share of the total that is un-ionised, by amount of substance. */
		fraction: Type.Object({ value: Type.Number(), standardUncertainty: Type.Number() }, exact),
		/** On the total scale, mol/kg of sea water. */
		pK: Type.Number()
	},
	exact
);
export type AmmoniaResult = Type.Static<typeof AmmoniaResult>;

/** A pen on NBS buffers reads so much above the total scale at 35 PSU and 25 C (Dickson, Sabine and Christian 2007). */
export const NBS_ABOVE_TOTAL = 0.13;
const USUAL_ERROR = { ph: 0.1, temperatureC: 0.5, salinity: 1 };
const USUAL_SHARE = 0.1;

/**
 * pK of ammonium in sea water on the total scale, mol/kg: Clegg and Whitfield 1995, table 4; 0 to 40 C, 0 to 40 PSU.
 *
 * @example pKofAmmonium(25, 35) // → 9.246
 */
export function pKofAmmonium(temperatureC: number, salinity: number): number {
	const T = temperatureC + 273.15;
	const root = Math.sqrt(T);
	const pK =
		9.244605 -
		2729.33 * (1 / 298.15 - 1 / T) +
		(0.04203362 - 11.24742 / T) * salinity ** 0.25 +
		(-13.6416 + 1.176949 * root - 0.02860785 * T + 545.4834 / T) * salinity ** 0.5 +
		(-0.1462507 + 0.0090226468 * root - 0.0001471361 * T + 10.5425 / T) * salinity ** 1.5 +
		(0.004669309 - 0.0001691742 * root - 0.5677934 / T) * salinity ** 2 +
		(-2.354039e-5 + 0.009698623 / T) * salinity ** 2.5;
	// From mol/kg of water to mol/kg of sea water.
	return pK - Math.log10(1 - 0.001005 * salinity);
}

interface Where {
	ph: number;
	temperatureC: number;
	salinity: number;
}
const fractionOf = ({ ph, temperatureC, salinity }: Where, scale: 'NBS' | 'total' = 'NBS'): number => {
	const total = scale === 'NBS' ? ph - NBS_ABOVE_TOTAL : ph;
	return 1 / (1 + 10 ** (pKofAmmonium(temperatureC, salinity) - total));
};

/**
 * Un-ionised ammonia of a total, mg/L NH3; pH as a pen on NBS buffers gives it.
 *
 * @example unionised(0.5, 'mg/L NH4', { ph: 8.2, temperatureC: 25, salinity: 35 }) // → 0.02952
 */
export function unionised(total: number, unit: string, where: Where): number {
	const there = convert({ quantity: 'ammonia', value: total, from: unit, to: 'mg/L NH3' });
	return (there.ok ? there.value.value : total) * fractionOf(where);
}

/**
 * The un-ionised part of a total, which is what harms, with its error (GUM 5.1.3: each error through its own slope).
 *
 * @example ammonia({ total: 0.5, unit: 'mg/L NH4', ph: 8.2, temperatureC: 25, salinity: 35 }).value.unionised.value // → 0.02952
 */
export function ammonia(request: AmmoniaRequest): Outcome<AmmoniaResult> {
	const { total, unit, ph, temperatureC, salinity, scale = 'NBS' } = request;
	const there = convert({ quantity: 'ammonia', value: total, from: unit, to: 'mg/L NH3' });
	if (!there.ok) return bad('/unit', 'is not a unit of ammonia');
	const u = { total: USUAL_SHARE * total, ...USUAL_ERROR, ...request.standardUncertainty };
	const at = (more: Partial<Where>) => fractionOf({ ph, temperatureC, salinity, ...more }, scale);
	const value = at({});
	const slope = (up: number, down: number) => (up - down) / 2;
	const error = Math.hypot(
		slope(at({ ph: ph + u.ph }), at({ ph: ph - u.ph })),
		slope(
			at({ temperatureC: temperatureC + u.temperatureC }),
			at({ temperatureC: temperatureC - u.temperatureC })
		),
		slope(at({ salinity: salinity + u.salinity }), at({ salinity: Math.max(0, salinity - u.salinity) }))
	);
	const whole = there.value.value;
	const share = total > 0 ? u.total / total : 0;
	return good({
		unionised: {
			value: whole * value,
			standardUncertainty: Math.hypot(whole * error, whole * value * share)
		},
		fraction: { value, standardUncertainty: error },
		pK: pKofAmmonium(temperatureC, salinity)
	});
}
