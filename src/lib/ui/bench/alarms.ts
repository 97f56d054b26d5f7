import type { Clock } from '$core/run';

/** A warning comes this long before a wait is over or a window closes, ms. */
export const WARN = 15_000;

/** What has come about at a clock: a wait is nearly over, it is over, or its window is about to close. */
export interface Alarm {
	clock: Clock;
	kind: 'soon' | 'open' | 'closing';
}

/** Everything that has come about after one moment, up to another (ms): each once, however far apart the two are. */
export function alarmsBetween(before: number, at: number, clocks: Clock[]): Alarm[] {
	const passed = (moment: number) => before < moment && moment <= at;
	return clocks.flatMap((clock): Alarm[] => [
		...(passed(clock.opens - WARN) ? [{ clock, kind: 'soon' as const }] : []),
		...(passed(clock.opens) ? [{ clock, kind: 'open' as const }] : []),
		...(clock.closes !== undefined && passed(clock.closes - WARN)
			? [{ clock, kind: 'closing' as const }]
			: [])
	]);
}
