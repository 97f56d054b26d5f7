import type { DoneStep } from '$lib/api/plans';
import { takingTickBack, tickingOff } from '$lib/client/commands';
import { currentTime } from '$lib/ui/clock';
import { outbox, post } from '$lib/ui/outbox.svelte';

/**
 * Steps of a plan that are ticked off on this device: what was pressed here counts at once, then what is on its way, then what the
 * page was told. Made while a component is set up.
 */
export function openTicks(plan: () => string | undefined, now: () => string) {
	let pressed: Record<number, boolean> = $state({});
	const onTheWay = $derived(
		Object.fromEntries(
			outbox.waiting.flatMap((w) => {
				const [, of, place] = /\/plans\/([^/]+)\/steps\/(\d+)$/.exec(w.path) ?? [];
				return of !== undefined && of === plan() ? [[Number(place), w.method === 'PUT'] as const] : [];
			})
		) as Record<number, boolean>
	);
	return {
		isDone: (place: number, told = false): boolean => pressed[place] ?? onTheWay[place] ?? told,
		tick(place: number, what: string, how: Pick<DoneStep, 'amount' | 'leftOut'> = {}): void {
			const id = plan();
			if (id === undefined) return;
			pressed[place] = true;
			const at = currentTime(now()).toISOString();
			post(tickingOff(id, place, { at, ...how }, how.leftOut ? `left out: ${what}` : what));
		},
		untick(place: number, what: string): void {
			const id = plan();
			if (id === undefined) return;
			pressed[place] = false;
			post(takingTickBack(id, place, `not done after all: ${what}`));
		},
		/** A page that was loaded anew knows what was pressed. */
		forget: (): void => void (pressed = {})
	};
}
export type Ticks = ReturnType<typeof openTicks>;
