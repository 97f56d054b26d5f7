import { placeOf } from '$lib/server/identity/attempts';
import { again, typedIn } from '$lib/server/http/form';
import { otherWaysBehind, resetPassword } from '$lib/server/identity/people';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => ({ others: await otherWaysBehind(params.token) });

export const actions: Actions = {
	default: async ({ request, params, getClientAddress }) => {
		const typed = await typedIn(request);
		const done = await resetPassword(
			params.token,
			typed['password'] ?? '',
			placeOf(getClientAddress()),
			typed['endOthers'] === 'on'
		);
		return done.ok ? { done: true } : again(done);
	}
};
