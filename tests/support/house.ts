import { afterAll, inject } from 'vitest';
import { startApplication } from './application';
import { backToFirstDay } from './first-day';

/** The application with the demo as on its first day, whatever another file has done: one for all where they share it, else of this file alone. */
async function open(): Promise<{ origin: string; data: string }> {
	const shared = inject('house');
	if (shared) {
		await backToFirstDay(shared.data);
		return shared;
	}
	const own = await startApplication();
	afterAll(own.stop);
	return own;
}
export const house = await open();
export const { origin } = house;
