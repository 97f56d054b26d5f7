import { formatUnit } from '$core/quantities';
import { parameterOf } from '$core/catalogue';
import type { WaterEvent } from '$core/trend';
import { figures, unitFor } from '$lib/ui/habits';
import { changeFor, pouredInWords } from '$lib/ui/mine';

/** A change of a parameter as this person counts it, from the parameter's own unit: "1.2". */
export const changeInOwn = (parameter: string, change: number): string => {
	const [low, high] = parameterOf(parameter)?.plausible ?? [0, 0];
	return figures(changeFor(parameter, change, (low + high) / 2), 3);
};

/** What was done, in a few words: "water change of 10 %", "dosing 1.2 dKH a day", "note: new lamp". */
export function eventInWords(event: WaterEvent): string {
	switch (event.kind) {
		case 'water-change':
			return `water change of ${figures(100 * event.fraction)} %`;
		case 'dosing':
			return `dosing ${changeInOwn(event.parameter, event.perDay)} ${formatUnit(unitFor(event.parameter))} a day`;
		case 'dose':
			return [
				`dose of ${changeInOwn(event.parameter, event.change)} ${formatUnit(unitFor(event.parameter))}`,
				event.supplement,
				pouredInWords(event)
			]
				.filter(Boolean)
				.join(', ');
		case 'correction':
			return `${changeInOwn(event.parameter, event.takenOff)} ${formatUnit(unitFor(event.parameter))} taken off ${event.method} from here on, as checked with ${event.by}`;
		case 'posted':
			return `sample ${event.sample} posted to ${event.lab}`;
		default:
			return `${event.kind}: ${event.text}`;
	}
}
