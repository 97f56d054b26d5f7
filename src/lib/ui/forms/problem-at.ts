import type { Problem } from '$core/base';

/** What a form's answer says about a field; about the form as a whole where the path is empty. */
export const problemAt = (
	form: { problems?: Problem[] | undefined } | null | undefined,
	path: string
): string | undefined =>
	form?.problems?.find((p) =>
		path === '' ? p.path === '' : p.path === path || p.path.startsWith(`${path}/`)
	)?.message;
