import { fail } from '@sveltejs/kit';
import { cut, type Outcome, type Problem } from '../../../core/base';
import type { Quantity } from '../../../core/quantities';
import { amountIn } from '../../../core/quick';

/** The text fields of a form as typed. */
export async function typedIn(request: Request): Promise<Record<string, string>> {
	const form = await request.formData();
	return Object.fromEntries([...form].map(([key, value]) => [key, typeof value === 'string' ? value : '']));
}

/** Where a form leads afterwards: only a place of this application. */
export function placeAfter(to: string | null | undefined, origin: string): string {
	if (!to?.startsWith('/')) return '/';
	// As the browser will understand it: it drops tabs and turns backslashes, so no pattern on the text is enough.
	const there = URL.canParse(to, origin) ? new URL(to, origin) : undefined;
	if (there?.origin !== new URL(origin).origin) return '/';
	const path = there.pathname + there.search + there.hash;
	// By itself “//name” is another server.
	return path.startsWith('//') ? '/' : path;
}

/** What was written in another unit is known to so many figures. */
const FIGURES = 4;

/**
 * Numbers of a form in our units, in whatever unit they were typed; what is no number is a problem at the place that it is read for, and
 * stands in for itself, so that all problems of a form are told at once.
 */
export function amountsOf() {
	const problems: Problem[] = [];
	return {
		/** `typedIn`: the unit of who wrote it, for a number without one. */
		read(
			path: string,
			text: string | undefined,
			quantity: Quantity,
			unit: string,
			typedIn: string = unit
		): number | string {
			const found = amountIn(text ?? '', quantity, unit, typedIn);
			if (!found.ok) {
				problems.push({ path, message: found.problems[0]?.message ?? 'is no number' });
				return text ?? '';
			}
			const asTyped = Number((text ?? '').trim().replace(',', '.')) === found.value;
			return asTyped ? found.value : Number(found.value.toPrecision(FIGURES));
		},
		/** An outcome with what was found here first. */
		and<T>(sent: Outcome<T>): Outcome<T> {
			if (!problems.length) return sent;
			const others = sent.ok
				? []
				: sent.problems.filter((p) => !problems.some((q) => p.path.startsWith(q.path)));
			return { ok: false, problems: [...problems, ...others] };
		}
	};
}

/** Of what was typed and refused so much is shown again, characters. */
const LONGEST_SHOWN = 500;

/** Fields that are never shown again. */
const SECRETS = ['password', 'current', 'present', 'farewell', 'code'];

/** A form's answer where something has to be put right: what was typed, without secrets, and what is wrong. */
export function again(outcome: Outcome<unknown>, typed: Record<string, string> = {}) {
	const problems: Problem[] = outcome.ok ? [] : outcome.problems;
	const shown = Object.fromEntries(
		Object.entries(typed)
			.filter(([key]) => !SECRETS.includes(key))
			.map(([key, text]) => [key, cut(text, LONGEST_SHOWN)])
	);
	return fail(422, { typed: shown, problems });
}
