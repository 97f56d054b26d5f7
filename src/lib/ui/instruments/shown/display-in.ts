import type { Shown } from '$core/instruments';
import { isQuantity, slopeAt, valueIn } from '$core/quantities';
import { parameterOf } from '$core/catalogue';

/** A display of another unit: what it shows and promises there, to a step that a scale has (1, 2 or 5 of a decade). */
export function displayIn(display: Shown, parameter: string, unit: string): Shown {
	const own = parameterOf(parameter);
	if (display.unit === unit || !own || !isQuantity(parameter)) return { ...display, unit };
	const to = (value: number) => valueIn(parameter, value, display.unit, unit);
	const middle = valueIn(parameter, (own.plausible[0] + own.plausible[1]) / 2, own.unit, display.unit);
	const slope = Math.abs(slopeAt(parameter, middle, display.unit, unit));
	const { resolution, graduation, absolute, range } = display;
	return {
		...display,
		unit,
		...(resolution === undefined ? {} : { resolution: stepOf(resolution * slope) }),
		...(graduation === undefined ? {} : { graduation: stepOf(graduation * slope) }),
		...(absolute === undefined ? {} : { absolute: Number((absolute * slope).toPrecision(2)) }),
		...(range ? { range: [to(range[0]), to(range[1])] } : {})
	};
}
/** The step of a scale that is nearest to a number. */
function stepOf(x: number): number {
	const decade = 10 ** Math.floor(Math.log10(x));
	const [step = 1] = [1, 2, 5, 10].sort(
		(a, b) => Math.abs(Math.log((a * decade) / x)) - Math.abs(Math.log((b * decade) / x))
	);
	return Number((step * decade).toPrecision(1));
}
