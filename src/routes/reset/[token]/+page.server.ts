import { placeOf } from '$lib/server/identity/attempts';
import { again, typedIn } from '$lib/server/http/form';
import { resetPassword } from '$lib/server/identity/people';
import type { Actions } from './$types';

export const actions: Actions = {
	default: async ({ request, params, getClientAddress }) => {
		const typed = await typedIn(request);
		const done = await resetPassword(params.token, typed['password'] ?? '', placeOf(getClientAddress()));
		return done.ok ? { done: true } : again(done);
	}
};
