import { again, typedIn } from '$lib/server/form';
import { resetPassword } from '$lib/server/people-store';
import type { Actions } from './$types';

export const actions: Actions = {
	default: async ({ request, params }) => {
		const typed = await typedIn(request);
		const done = await resetPassword(params.token, typed['password'] ?? '');
		return done.ok ? { done: true } : again(done);
	}
};
