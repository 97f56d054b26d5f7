/** Steps a leaflet rounds to, coarsest first. */
const STEPS = [2, 1, 0, -1, -2, -3, -4].flatMap((exponent) =>
	[5, 2, 1].map((digit) => digit * 10 ** exponent)
);

/** Share of lines that may not fit the step: a mistyped one among ten. */
const MAY_DIFFER = 0.15;

/** The coarsest common step of a chart's values; the finest known where none fits. */
export function roundingOf(values: number[]): number {
	const fits = (step: number) =>
		values.filter((v) => Math.abs(v / step - Math.round(v / step)) < 1e-6).length >=
		values.length * (1 - MAY_DIFFER);
	return STEPS.find(fits) ?? STEPS.at(-1)!;
}

export const roundTo = (value: number, step: number): number =>
	Number((Math.round(value / step) * step).toPrecision(12));
