/** One thing that made a number differ from the truth, in mL of titrant: more than the truth is positive. */
export interface Cause {
	by:
		| 'reading'
		| 'filling'
		| 'hanging'
		| 'drop-size'
		| 'counting'
		| 'overshoot'
		| 'undershoot'
		| 'sample'
		| 'precipitate';
	ml: number;
}
export interface Truth {
	/** Used, as the keeper said it, and as a hand without fault would have; mL. */
	saidMl: number;
	trueMl: number;
	/** They add up to the difference, largest first; none that is nothing. */
	causes: Cause[];
	/** What it looks like that was done, where it is one thing. */
	slip: 'left-for-used' | 'liquid-edge' | 'refill' | undefined;
}

const NOTHING_ML = 1e-6;
const sorted = (causes: Cause[]): Cause[] =>
	causes.filter((c) => Math.abs(c.ml) > NOTHING_ML).sort((a, b) => Math.abs(b.ml) - Math.abs(a.ml));
const atTheEnd = (fell: number, end: number): Cause => ({
	by: fell > end ? 'overshoot' : 'undershoot',
	ml: fell - end
});

/** A titration by syringe as it was: mL; `edge` is where the plunger's edge stands, `said` what was read as left. */
interface SyringeTry {
	fullMl: number;
	startEdge: number;
	endEdge: number;
	airMl: number;
	hangingMl: number;
	fellMl: number;
	saidLeft: number;
	refills: number;
	saidRefills: number;
	/** Where the end lies for the sample as it was drawn, and as it should have been. */
	endMl: number;
	nominalEndMl: number;
}

/**
 * Where the error of a titration by syringe came from: what was said less what a hand without fault would have said, in parts that add up.
 *
 * @example syringeTruth({ fullMl: 1, startEdge: 0.98, endEdge: 0.4, airMl: 0.04, hangingMl: 0, fellMl: 0.58, saidLeft: 0.41, refills: 0, saidRefills: 0, endMl: 0.57, nominalEndMl: 0.57 }).causes[0].by // → 'filling'
 */
export function syringeTruth(t: SyringeTry): Truth {
	const saidMl = t.saidRefills * t.fullMl + t.fullMl - t.saidLeft;
	const misread = t.endEdge - t.saidLeft + (t.saidRefills - t.refills) * t.fullMl;
	const near = (left: number) => Math.abs(t.saidLeft - left) < MISREADING_NEAR * t.fullMl;
	const slip =
		Math.abs(misread) <= MISREADING_BEYOND * t.fullMl
			? undefined
			: t.saidRefills !== t.refills && near(t.endEdge)
				? ('refill' as const)
				: near(t.fullMl - t.endEdge)
					? ('left-for-used' as const)
					: near(t.endEdge - t.airMl)
						? ('liquid-edge' as const)
						: undefined;
	return {
		saidMl,
		trueMl: t.nominalEndMl,
		causes: sorted([
			{ by: 'reading', ml: misread },
			{ by: 'filling', ml: t.fullMl - t.startEdge },
			{ by: 'hanging', ml: t.hangingMl },
			atTheEnd(t.fellMl, t.endMl),
			{ by: 'sample', ml: t.endMl - t.nominalEndMl }
		]),
		slip
	};
}
/** What was said within so much of a misreading's figure is that misreading, and only where it is off by more than lines are misjudged; shares of a fill. */
const MISREADING_NEAR = 0.012;
const MISREADING_BEYOND = 0.025;

/** A titration by drops as it was. */
interface DropsTry {
	/** Of a drop as the kit has it, mL. */
	dropMl: number;
	said: number;
	fallen: number;
	fellMl: number;
	endMl: number;
	nominalEndMl: number;
}

/**
 * The same of drops: what was counted, what they were, and where it stopped.
 *
 * @example dropsTruth({ dropMl: 0.05, said: 13, fallen: 12, fellMl: 0.6, endMl: 0.57, nominalEndMl: 0.57 }).causes[0].by // → 'counting'
 */
export function dropsTruth(t: DropsTry): Truth {
	return {
		saidMl: t.said * t.dropMl,
		trueMl: t.nominalEndMl,
		causes: sorted([
			{ by: 'counting', ml: (t.said - t.fallen) * t.dropMl },
			{ by: 'drop-size', ml: t.fallen * t.dropMl - t.fellMl },
			atTheEnd(t.fellMl, t.endMl),
			{ by: 'sample', ml: t.endMl - t.nominalEndMl }
		]),
		slip: undefined
	};
}
