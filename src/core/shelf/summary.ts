import { instrumentOf } from '../instruments';
import { type Method } from '../instruments';
import { handsOf, read, waitOf } from '../methods';
import { COVERAGE_95 } from '../statistics';
import { observeIdeal } from '../simulate';

/** What a method is worth, for comparing kits. */
interface MethodSummary {
	/** Half of a 95 % interval at the target, in the method's unit; null where the method ends before it. */
	errorAtTarget: number | null;
	/** What one graduation, drop, patch or last digit is worth there. */
	step: number | null;
	handsSeconds: number;
	waitSeconds: number;
	/** Price of one test, in the money of the pack. */
	cost: number | null;
}

/**
 * Judges a method at a target value in its own unit.
 *
 * @example summarise(SHIPPED_METHODS[0], 8.3).errorAtTarget // → 0.3557
 */
export function summarise(method: Method, target: number): MethodSummary {
	const other = method.takeAway
		? { other: { [method.takeAway.parameter]: { value: 0, standardUncertainty: 0 } } }
		: {};
	const result = read({ method, reading: observeIdeal(method, target), ...other });
	const steps = method.steps ?? [];
	return {
		errorAtTarget:
			result.ok && result.value.standardUncertainty !== null
				? COVERAGE_95 * result.value.standardUncertainty
				: null,
		step: instrumentOf(method).stepAt(method, target),
		handsSeconds: steps.reduce((total, s) => total + handsOf(s), 0),
		waitSeconds: steps.reduce((total, s) => total + waitOf(s), 0),
		cost: method.pack ? method.pack.price / method.pack.tests : null
	};
}
