import type { WaterEvent } from '$core/trend';

/** What was done, in a few words: "water change of 10 %", "dosing 1.2 a day", "note: new lamp". */
export function eventInWords(event: WaterEvent): string {
	switch (event.kind) {
		case 'water-change':
			return `water change of ${Math.round(1000 * event.fraction) / 10} %`;
		case 'dosing':
			return `dosing ${event.perDay} a day`;
		case 'dose':
			return `dose of ${event.change}${event.supplement ? `, ${event.supplement}` : ''}`;
		default:
			return `${event.kind}: ${event.text}`;
	}
}
