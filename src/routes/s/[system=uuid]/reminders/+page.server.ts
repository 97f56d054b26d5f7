import { calendarToken } from '$lib/server/calendar-store';
import { outlookOf } from '$lib/server/trend-store';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals, url }) => {
	const { due } = await outlookOf(locals.asker, params.system);
	return { due, address: `${url.origin}/calendar/${await calendarToken(locals.asker)}.ics` };
};

export const actions: Actions = {
	anew: async ({ locals }) => {
		await calendarToken(locals.asker, true);
	}
};
