import { nth } from '../base';
import { convert } from '../quantities';
import { CALCIUM_PER_DKH, hasTrait } from '../catalogue';
import { inUnitOf, isOdd, isYoung, type Case } from './case';
import type { Judgement } from './judge-schema';
import { placeInBand } from './placing';

/** A ratio this far from its own value, and beyond twice its error, points to a test before chemistry. */
const FAR_RATIO = 0.35;

/** In this order water is brought home: each moves those behind it. */
const HOMEWARD = ['salinity', 'magnesium', 'alkalinity', 'calcium', 'potassium', 'nitrate', 'phosphate'];

/** Water thinner or saltier than by this is no sea water, or was read wrongly: of its ions nothing is promised. */
const FARTHEST = 1.5;

/** Thin or thick water moves every ion: it stands before what it explains, and goes by the keeper's own salinity. */
export function salinity(all: Case[]): Judgement[] {
	const salt = all.find((c) => c.parameter === 'salinity');
	if (!salt?.target || !isYoung(salt) || isOdd(salt)) return [];
	const { value, standardDeviation } = salt.known.now;
	const { state } = placeInBand(value, Math.max(standardDeviation, 1e-9), salt.target);
	if (state !== 'below' && state !== 'above') return [];
	const thin = state === 'below';
	const wanted = salt.target.ideal ?? (salt.target.lower + salt.target.upper) / 2;
	// Ions go with salt, which specific gravity and conductivity only show.
	const salts = (x: number): number => {
		const { unit } = salt.known;
		const there = unit && convert({ quantity: 'salinity', value: x, from: unit, to: 'PSU' });
		return there && there.ok ? there.value.value : x;
	};
	const factor = salts(wanted) / salts(value);
	if (factor > FARTHEST || factor < 1 / FARTHEST) return [];
	const explained = all.filter((c) => {
		if (!hasTrait(c.parameter, 'ion') || !c.target || !isYoung(c)) return false;
		const level = c.known.now.value;
		return thin
			? level < c.target.lower && level * factor >= c.target.lower
			: level > c.target.upper && level * factor <= c.target.upper;
	});
	if (!explained.length) return [];
	const numbers: Judgement['numbers'] = { value, wanted };
	for (const c of explained) numbers[c.parameter] = c.known.now.value * factor;
	return [
		{
			kind: thin ? 'salinity-first' : 'salinity-thick',
			parameter: 'salinity',
			rank: 1,
			numbers,
			also: explained.map((c) => c.parameter),
			helps: 'look'
		}
	];
}

/** Several that are out are brought home one after the other. */
export function order(standings: Judgement[], all: Case[]): Judgement[] {
	const away = new Set(
		standings.filter((j) => j.kind === 'out' || j.kind === 'harm').map((j) => j.parameter)
	);
	const also = HOMEWARD.filter((p) => away.has(p) && all.some((c) => c.parameter === p));
	return also.length < 2
		? []
		: [
				{
					kind: 'order',
					parameter: nth(also, 0),
					rank: 2,
					numbers: { count: also.length },
					also,
					helps: 'look'
				}
			];
}

export function ratio(alkalinity: Case | undefined, calcium: Case | undefined): Judgement[] {
	const [a, c] = [alkalinity?.known.usePerDay, calcium?.known.usePerDay];
	if (!a || !c || !isYoung(alkalinity!) || !isYoung(calcium!) || isOdd(alkalinity!) || isOdd(calcium!))
		return [];
	// What a dKH is in the unit of each.
	const dKH = inUnitOf(alkalinity!, 1);
	const expected = (a.value / dKH) * CALCIUM_PER_DKH;
	const error = Math.hypot(c.standardDeviation, (a.standardDeviation / dKH) * CALCIUM_PER_DKH);
	if (Math.abs(a.value) < 2 * a.standardDeviation) return [];
	if (Math.abs(c.value - expected) < Math.max(2 * error, FAR_RATIO * Math.abs(expected))) return [];
	return [
		{
			kind: 'ratio',
			parameter: 'calcium',
			rank: 2,
			numbers: { calcium: c.value, alkalinity: a.value, expected },
			also: ['alkalinity'],
			helps: 'test'
		}
	];
}
