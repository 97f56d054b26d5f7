import { again, typedIn } from '$lib/server/form';
import { forgotPassword } from '$lib/server/people-store';
import type { Actions } from './$types';

export const actions: Actions = {
	default: async ({ request, getClientAddress }) => {
		const typed = await typedIn(request);
		const done = await forgotPassword(typed['email']?.trim() ?? '', getClientAddress());
		return done.ok ? { sent: true } : again(done, typed);
	}
};
