import { bad, good, type Outcome } from '../base';
import { carbonateSystem } from '../seawater';
import { COMPARATORS, comparedColour, grownTo, type Compared } from './growth';
import { INDICATORS, USUAL_INDICATOR, type Indicator } from './indicators';
import type { TitrationRequest, TitrationResult } from './schema';
import { SEA, dropsFrom, endPointOf, freshVial, lookAt, onward, type Recipe } from './vial';

/**
 * A vial that behaves: titrant falls into a sample, mixes, and turns an indicator, as equilibria and spectra have it; seen in a light. Mixing
 * and what comes out of a precipitate take time. Of a comparator the dye grows. Problems: no titrant for what is titrated, some for what is compared,
 * an indicator that something else turns, a precipitant where there is none,
 * a pH that so little alkalinity cannot hold.
 *
 * @example titration({ analyte: 'calcium', sampleMl: 5, titrant: { molar: 0.0625 }, additions: [] }).value.endPoint.ml // → 0.8215
 */
export function titration(request: TitrationRequest): Outcome<TitrationResult> {
	const { analyte, sampleMl, titrant, additions, light = 'daylight', dropMl, seed = 1 } = request;
	if (isCompared(analyte)) return comparison(request, analyte);
	if (!titrant) return bad('/titrant', `is needed: ${analyte} is titrated`);
	const indicator: Indicator = request.indicator ?? USUAL_INDICATOR[analyte];
	if (INDICATORS[indicator].by !== INDICATORS[USUAL_INDICATOR[analyte]].by)
		return bad('/indicator', `is not turned by what ${analyte} is titrated with`);
	if (request.precipitantMmol !== undefined && analyte !== 'potassium')
		return bad('/precipitantMmol', 'is for potassium, titrated back');
	const recipe: Recipe = {
		analyte,
		water: { ...SEA, ...request.water },
		sampleMl,
		molar: titrant.molar,
		indicator,
		...(request.precipitantMmol === undefined ? {} : { precipitantMmol: request.precipitantMmol })
	};
	const { salinity: s, temperatureC: t, ph, alkalinity: dkh } = recipe.water;
	if (analyte === 'alkalinity' && !carbonateSystem({ s, t, ph, dkh, calcium: undefined }))
		return bad('/water/ph', 'is higher than so little alkalinity can hold; give the pH this water has');
	let vial = freshVial();
	const drop = dropMl === undefined ? undefined : dropsFrom(dropMl, seed);
	const frames = additions.map(({ ml, seconds, swirl = 0 }) => {
		let left = ml;
		const parts: number[] = [];
		while (drop && left > 0 && parts.length < MOST_DROPS) {
			const next = drop().ml;
			parts.push(next);
			left -= next;
		}
		if (!drop) parts.push(...Array.from({ length: STEPS }, () => ml / STEPS));
		for (const part of parts) vial = onward(recipe, vial, seconds / parts.length, part, swirl);
		if (!parts.length) vial = onward(recipe, vial, seconds, 0, swirl);
		const { colour, plume, turned, p, mixed } = lookAt(recipe, vial, light);
		return {
			seconds: vial.seconds,
			ml: vial.ml,
			...(analyte === 'alkalinity' ? { ph: p } : { pm: p }),
			mixed,
			turned,
			colour,
			plume
		};
	});
	const { ml, p, equivalenceMl } = endPointOf(recipe);
	return good({ frames, endPoint: { ml: ml ?? null, p: p ?? null, equivalenceMl } });
}
const isCompared = (analyte: TitrationRequest['analyte']): analyte is Compared => analyte in COMPARATORS;

/** A comparator's vial in time: nothing is run in, its dye grows. */
function comparison(
	{ water, additions, light = 'daylight' }: TitrationRequest,
	of: Compared
): Outcome<TitrationResult> {
	const given = additions.findIndex((a) => a.ml > 0);
	if (given >= 0) return bad(`/additions/${given}/ml`, `must be 0: ${of} is compared, and only time passes`);
	const value = water?.[of] ?? 0;
	let seconds = 0;
	const frames = additions.map((a) => {
		seconds += a.seconds;
		const colour = comparedColour(of, value, seconds, light);
		return { seconds, ml: 0, mixed: 1, turned: grownTo(COMPARATORS[of], seconds), colour, plume: colour };
	});
	return good({ frames, endPoint: { ml: null, p: null, equivalenceMl: 0 } });
}
/** Parts of an addition that comes evenly: a hundredth of it mixes no differently from all at once. */
const STEPS = 20;
const MOST_DROPS = 5000;
