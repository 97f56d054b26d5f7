import { placeOf } from '$lib/server/identity/attempts';
import { again, typedIn } from '$lib/server/http/form';
import { forgotPassword } from '$lib/server/identity/people';
import type { Actions } from './$types';

export const actions: Actions = {
	default: async ({ request, getClientAddress }) => {
		const typed = await typedIn(request);
		const done = await forgotPassword(typed['email']?.trim() ?? '', placeOf(getClientAddress()));
		return done.ok ? { sent: true } : again(done, typed);
	}
};
