import { fail } from '@sveltejs/kit';
import type { Outcome, Problem } from '../../core/problems';

/** The text fields of a form as typed. */
export async function typedIn(request: Request): Promise<Record<string, string>> {
	const form = await request.formData();
	return Object.fromEntries([...form].map(([key, value]) => [key, typeof value === 'string' ? value : '']));
}

/** Where a form leads afterwards: only a place of this application. */
export const placeAfter = (to: string | null | undefined): string =>
	to && /^\/(?![/\\])/.test(to) ? to : '/';

/** A form's answer where something has to be put right: what was typed, without secrets, and what is wrong. */
export function again(outcome: Outcome<unknown>, typed: Record<string, string> = {}) {
	const problems: Problem[] = outcome.ok ? [] : outcome.problems;
	const shown = Object.fromEntries(
		Object.entries(typed).filter(([key]) => !['password', 'current', 'repeat'].includes(key))
	);
	return fail(422, { typed: shown, problems });
}
