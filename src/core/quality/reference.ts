import { compositionOf, isDamp, saltOf } from '../adjust';
import { DAY, bad, badAll, good, type Outcome } from '../base';
import { convert, isQuantity, slopeAt } from '../quantities';
import { parameterOf } from '../catalogue';
import { COVERAGE_95, ONE_SIDED_95, normalBelow } from '../statistics';
import { controlOf, ewmaOf } from './control';
import type { ReferenceRequest, ReferenceResult, ReferenceTest, Verdict, Weighed } from './schema';
import { TABLES, salinityRead } from './sodium-chloride';
import { DIFFER, Z80, weightedMean } from './spread';

/** Of a scale with a tenth of a gram, of a litre by a measuring jug, of a salt whose purity is not said; standard uncertainties. */
const SCALE_G = 0.1 / Math.sqrt(12);
const JUG = 0.01;
const PURITY = 0.01 / Math.sqrt(3);
/** What is found of an added amount counts as all of it within this share: the usual limits at such contents (AOAC, appendix F). */
const RECOVERED = 0.1;
/** Ageing is looked for in a batch with so many checks over so many days. */
const AGEING_CHECKS = 4;
const AGEING_DAYS = 21;
/** ISO 13528: a zeta score beyond it asks for action. */
const ACTION = 3;

/**
 * A kit against water whose content is known: what it reads more than is there, whether that is more than noise, and what is known of
 * it afterwards (ISO 13528 zeta; control chart ISO 7870-2; EWMA; a normal prior for the kit's own error). Or against an amount that was added. All in the
 * reference's unit. Problems: nothing asked, a salt that does not bring it, a unit unknown.
 *
 * @example reference({ reference: { parameter: 'alkalinity', unit: 'dKH', value: 8, standardUncertainty: 0.05 }, tests: [{ at: '2026-05-06T18:00:00Z', value: 8.6, repeatability: 0.1 }, { at: '2026-05-06T18:10:00Z', value: 8.6, repeatability: 0.1 }], prior: { trueness: 0.2 } }).value.verdict // → 'reads-high'
 */
export function reference(request: ReferenceRequest): Outcome<ReferenceResult> {
	const { tests, prior, addition } = request;
	if (addition) return recovered(addition);
	if (!request.reference) return bad('/reference', 'must say what the water holds, or what was added to it');
	if (!tests) return bad('/tests', 'must list what the kit read');
	if (!prior) return bad('/prior', 'must say what the kit may be off by');
	const known = knownOf(request.reference);
	if (!known.ok) return known;
	const truth = known.value;
	const inOrder = [...tests].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
	const off = inOrder.map((t) => ({ ...t, value: t.value - truth.value }));
	const mean = weightedMean(off);
	const bias = {
		value: mean.value,
		standardUncertainty: Math.hypot(mean.standardUncertainty, truth.standardUncertainty)
	};
	const before = prior.trueness;
	const zeta = bias.value / Math.hypot(bias.standardUncertainty, before);
	// Normal prior, normal data: what is known of the kit's own error. A kit far beyond what it says of itself is not what it says: then
	// the spread of its error is what the checks make likeliest (empirical Bayes, marginal likelihood of the one bias).
	const spread =
		Math.abs(zeta) > ACTION
			? Math.max(before, Math.sqrt(Math.max(0, bias.value ** 2 - bias.standardUncertainty ** 2)))
			: before;
	const believed = (bias.value * spread ** 2) / (spread ** 2 + bias.standardUncertainty ** 2);
	const corrected = (spread * bias.standardUncertainty) / Math.hypot(spread, bias.standardUncertainty);
	const control = controlOf(truth, before, inOrder);
	return good({
		known: truth,
		bias,
		zeta,
		verdict: verdictOf(bias, COVERAGE_95 * before),
		testsToTell: testsToTell(mean.single, Math.hypot(truth.standardUncertainty, mean.shared), before),
		// What is not taken off stays in every reading (GUM F.2.4.5).
		trueness: { before, after: Math.hypot(corrected, believed), corrected, bias: believed },
		control,
		ewma: ewmaOf(control.points),
		ageing: ageingOf(off)
	});
}

/** More than noise, within what is allowed with 95 %, or neither. */
function verdictOf(
	{ value, standardUncertainty }: { value: number; standardUncertainty: number },
	allowed: number
): Verdict {
	if (Math.abs(value) > COVERAGE_95 * standardUncertainty) return value > 0 ? 'reads-high' : 'reads-low';
	return Math.abs(value) + ONE_SIDED_95 * standardUncertainty <= allowed ? 'agrees' : 'unsure';
}

/** Tests in all until a bias as large as the kit allows itself (95 %) is seen with a power of 80 %; null: never with such a reference. */
function testsToTell(single: number, known: number, trueness: number): number | null {
	const needed = ((COVERAGE_95 * trueness) / (COVERAGE_95 + Z80)) ** 2 - known ** 2;
	return needed > 0 ? Math.max(1, Math.ceil(single ** 2 / needed - 1e-9)) : null;
}

/**
 * What a reference holds, in `unit`: as its label says, or as what was weighed into it. Problems: both or neither, a salt that does not bring it, a
 * unit unknown.
 *
 * @example knownOf({ parameter: 'potassium', unit: 'mg/L', weighed: { salt: 'KCl', grams: 7.6, litres: 10 } }).value.value // → 398.6
 */
export function knownOf(
	asked: NonNullable<ReferenceRequest['reference']>
): Outcome<{ value: number; standardUncertainty: number }> {
	const { parameter, unit, value, standardUncertainty = 0, weighed } = asked;
	if ((value === undefined) === (weighed === undefined))
		return bad('/reference', 'must say either what the label says or what was weighed in');
	if (value !== undefined) return good({ value, standardUncertainty });
	const made =
		weighed && (parameter === 'salinity' ? fromSodiumChloride(weighed) : fromSalt(weighed, parameter));
	if (!made) return bad('/reference', 'must say what was weighed in');
	if (!made.ok) return made;
	const own = parameterOf(parameter)?.unit ?? unit;
	if (!isQuantity(parameter)) return bad('/reference/parameter', 'is nothing that salts bring');
	const its = convert({ quantity: parameter, value: made.value.value, from: own, to: unit });
	if (!its.ok) return bad('/reference/unit', `is not a unit of ${parameter}`);
	// An error goes by the slope where it stands (GUM 5.1.3): specific gravity and Fahrenheit do not begin at nought.
	const slope = Math.abs(slopeAt(parameter, made.value.value, own, unit));
	return good({ value: its.value.value, standardUncertainty: slope * made.value.standardUncertainty });
}

/** What a litre of weighed salt holds, in the parameter's own unit, with the budget of scale, jug and purity. */
function fromSalt(
	weighed: Weighed,
	parameter: string
): Outcome<{ value: number; standardUncertainty: number }> {
	const { salt, grams, litres, purity = 1 } = weighed;
	const its = saltOf(salt);
	if (its.ok && isDamp(its.value)) return bad('/reference/weighed/salt', WET);
	const made = compositionOf({
		format: 'tevrik.supplement/1',
		id: 'reference',
		name: 'reference',
		kind: 'solution',
		composition: { recipe: { salt, gramsPerL: grams / litres, purity } }
	});
	if (!made.ok)
		return badAll(
			made.problems.map((p) => ({
				path: p.path.endsWith('salt') ? '/reference/weighed/salt' : '/reference/weighed',
				message: p.message
			}))
		);
	// A mL of it brings a thousandth of what it holds to a litre.
	const value = 1000 * (made.value.raises[parameter] ?? 0);
	if (!(value > 0)) return bad('/reference/weighed/salt', `brings no ${parameter}`);
	return good({ value, standardUncertainty: weighedWithin(weighed) * value });
}
const WET =
	'draws water from the air, and nobody knows how much of it was weighed: a reference takes a salt that stays dry, such as KCl, NaHCO3 or MgSO4.7H2O';

/** Of what was weighed in, as a share: scale, jug and purity. */
const weighedWithin = ({
	grams,
	gramsError = SCALE_G,
	litres,
	litresError = JUG * litres,
	purity
}: Weighed) =>
	Math.hypot(
		gramsError / grams,
		litresError / litres,
		purity === undefined ? PURITY : (1 - purity) / Math.sqrt(3)
	);

/** What an instrument for salinity reads in a solution of table salt. */
function fromSodiumChloride(weighed: Weighed): Outcome<{ value: number; standardUncertainty: number }> {
	const { salt, grams, litres, purity = 1, readsBy } = weighed;
	const its = saltOf(salt);
	if (!its.ok || its.value.cation !== 'Na' || its.value.anion !== 'Cl')
		return bad(
			'/reference/weighed/salt',
			'must be NaCl: for no other salt it is known what instruments read'
		);
	if (!readsBy)
		return bad(
			'/reference/weighed/readsBy',
			'must say what the instrument goes by: sodium chloride refracts, floats and conducts each as another salinity'
		);
	const value = salinityRead(readsBy, (grams / litres) * purity);
	return value === undefined
		? bad('/reference/weighed', 'must hold between 0.3 and 58 g in a litre')
		: good({ value, standardUncertainty: Math.hypot(weighedWithin(weighed), TABLES) * value });
}

/** What was found of what was added: the kit's constant error falls out of the difference. */
function recovered({
	plain,
	spiked,
	added
}: NonNullable<ReferenceRequest['addition']>): Outcome<ReferenceResult> {
	const [without, withIt] = [weightedMean(plain), weightedMean(spiked)];
	const share = (withIt.value - without.value) / added.value;
	const standardUncertainty = Math.hypot(
		Math.hypot(without.standardUncertainty, withIt.standardUncertainty) / added.value,
		(share * added.standardUncertainty) / added.value
	);
	return good({
		recovery: { value: share, standardUncertainty },
		verdict: verdictOf({ value: share - 1, standardUncertainty }, RECOVERED)
	});
}

/** How the newest batch's reading of the same water changed from its first check to its last: a weighted line. */
function ageingOf(off: ReferenceTest[]): NonNullable<ReferenceResult['ageing']> | null {
	const newest = off.at(-1);
	const batch = off.filter((t) => t.pack === newest?.pack);
	const [first, last] = [batch[0], batch.at(-1)];
	if (!first || !last || batch.length < AGEING_CHECKS) return null;
	const days = (at: string) => (Date.parse(at) - Date.parse(first.at)) / DAY;
	const span = days(last.at);
	if (span < AGEING_DAYS) return null;
	const total = batch.reduce((sum, t) => sum + t.repeatability ** -2, 0);
	const middle = batch.reduce((sum, t) => sum + days(t.at) * t.repeatability ** -2, 0) / total;
	const sxx = batch.reduce((sum, t) => sum + ((days(t.at) - middle) / t.repeatability) ** 2, 0);
	const sxy = batch.reduce((sum, t) => sum + ((days(t.at) - middle) * t.value) / t.repeatability ** 2, 0);
	const value = (span * sxy) / sxx;
	const standardUncertainty = span / Math.sqrt(sxx);
	const chance = 2 * normalBelow(-Math.abs(value) / standardUncertainty);
	return chance < DIFFER ? { value, standardUncertainty, from: first.at, to: last.at, chance } : null;
}
