import { SEA_PSU, seaAt } from '../seawater';
import type { Expected, ReadingRequest } from '../methods';
import { COVERAGE_95 } from '../statistics';
import { convert, isQuantity } from '../quantities';
import { parameterOf, hasTrait } from '../catalogue';

/** What a water is likely to show, in the method's unit; `halved`: nothing lies below 0, and less is likelier than more. */
export interface Prior extends Expected {
	halved?: boolean;
}

/** Purified water shows nothing: a fiftieth of what is found in tanks would be much. */
const PURIFIED_SHARE = 0.02;
/** New mix is meant to be like the sea, and is less sure. */
const MIX_WIDER = 2.5;
/** Nutrients of the open sea and of a fresh mix: next to nothing, as a share of what is found in tanks. */
const POOR_SHARE = 0.03;

/** What such water shows when nothing is known of its own: undefined where anything is possible (tap water, a reference). */
export function priorOf({ method, water = 'tank' }: ReadingRequest): Prior | undefined {
	const parameter = parameterOf(method.parameter);
	if (!parameter || water === 'tap' || water === 'reference' || water === 'other') return undefined;
	const [low, high] = parameter.plausible;
	const none = low <= 0;
	const half = (most: number): Prior => ({ mean: 0, standardDeviation: most / COVERAGE_95, halved: true });
	const bell = (mean: number, standardDeviation: number): Prior => ({ mean, standardDeviation });
	let own: Prior;
	if (water === 'purified') {
		// Its temperature and pH may be any.
		if (!hasTrait(parameter.id, 'solute')) return undefined;
		own = half(PURIFIED_SHARE * high);
	} else if (water === 'tank')
		own = none ? half(high) : bell((low + high) / 2, (high - low) / 2 / COVERAGE_95);
	else if (none) own = half(POOR_SHARE * high * (water === 'sea' ? 1 : MIX_WIDER));
	else {
		const { sea } = parameter;
		const mix = water === 'new mix' ? sea?.saltMix : undefined;
		if (mix) own = bell(mix.value, mix.standardDeviation);
		else if (sea) {
			const value = 'value' in sea ? sea.value : (seaAt(SEA_PSU)[parameter.id] ?? NaN);
			own = bell(value, sea.standardDeviation * (water === 'new mix' ? MIX_WIDER : 1));
		} else own = bell((low + high) / 2, (high - low) / 2 / COVERAGE_95);
	}
	return inUnit(own, method.parameter, parameter.unit, method.unit);
}

function inUnit(prior: Prior, parameter: string, from: string, to: string): Prior | undefined {
	if (from === to) return prior;
	if (!isQuantity(parameter)) return undefined;
	const through = (value: number) => {
		const result = convert({ quantity: parameter, value, from, to });
		return result.ok ? result.value.value : undefined;
	};
	const mean = through(prior.mean);
	const more = through(prior.mean + prior.standardDeviation);
	return mean === undefined || more === undefined
		? undefined
		: { ...prior, mean, standardDeviation: Math.abs(more - mean) };
}
