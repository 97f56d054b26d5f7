import { bad, good, type Outcome } from '$core/base';
import { knownOf, type ReadsBy, type ReferenceContent } from '$core/quality';
import { slopeAt, type Quantity } from '$core/quantities';
import { amountIn, plainNumber } from '$core/quick';
import { COVERAGE_95 } from '$core/statistics';

/** A reference as it is typed: what its label says, or what was weighed in. */
export interface ReferenceDraft {
	name: string;
	until: string;
	value: string;
	error: string;
	salt: string;
	grams: string;
	litres: string;
}
export const NO_REFERENCE: ReferenceDraft = {
	name: '',
	value: '',
	error: '',
	until: '',
	salt: '',
	grams: '',
	litres: ''
};

/**
 * What a reference holds of a parameter, in its own unit `own`; a label is typed in `unit`. Of sodium chloride `by` says for which instrument.
 * Problems: by the field.
 */
export function contentOf(
	typed: ReferenceDraft,
	how: 'label' | 'weighed',
	{ parameter, own, unit, by }: { parameter: Quantity; own: string; unit: string; by: ReadsBy }
): Outcome<ReferenceContent['values'][string]> {
	if (!typed.name.trim()) return bad('/name', 'needs a name, for example what stands on the bottle');
	return how === 'label' ? byLabel() : byWeight();

	function byLabel() {
		const value = amountIn(typed.value, parameter, own, unit);
		if (!value.ok) return bad('/value', value.problems[0]?.message ?? 'is not a number');
		const half = plainNumber(typed.error);
		if (!half.ok || !(half.value > 0))
			return bad('/error', 'is what the label says it is right within; 2 % where it says nothing');
		// An error goes by the slope where it stands (GUM 5.1.3): specific gravity does not begin at nought.
		const slope = Math.abs(slopeAt(parameter, value.value, own, unit)) || 1;
		return good({ value: value.value, standardUncertainty: half.value / slope / COVERAGE_95 });
	}
	function byWeight() {
		const [grams, litres] = [plainNumber(typed.grams), plainNumber(typed.litres)];
		if (!grams.ok || !(grams.value > 0))
			return bad('/grams', grams.ok ? 'is a number of grams' : (grams.problems[0]?.message ?? ''));
		if (!litres.ok || !(litres.value > 0))
			return bad('/litres', litres.ok ? 'is a number of litres' : (litres.problems[0]?.message ?? ''));
		const known = knownOf({
			parameter,
			unit: own,
			weighed: {
				salt: typed.salt.trim() || '?',
				grams: grams.value,
				litres: litres.value,
				...(parameter === 'salinity' ? { readsBy: by } : {})
			}
		});
		return known.ok ? known : bad('/salt', known.problems[0]?.message ?? '');
	}
}
