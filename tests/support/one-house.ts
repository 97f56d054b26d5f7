import type { TestProject } from 'vitest/node';
import { startApplication } from './application';
import { keepFirstDay } from './first-day';

declare module 'vitest' {
	interface ProvidedContext {
		house?: { origin: string; data: string };
	}
}

/** One application for all tests of pages: each file finds it as on its first day, but warm. */
export default async function setup({ provide }: TestProject): Promise<() => Promise<void>> {
	const { origin, data, stop } = await startApplication();
	await keepFirstDay(data);
	provide('house', { origin, data });
	return stop;
}
