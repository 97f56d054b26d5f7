import { REMIND_AT, calendarToken } from '$lib/server/answers/calendar';
import { outlookShown } from '$lib/server/answers/outlook';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals, url }) => {
	const { due, asOf } = await outlookShown(locals.asker, params.system);
	const token = await calendarToken(locals.asker);
	return {
		asOf,
		due,
		remindAt: locals.habits.remindAt ?? REMIND_AT,
		address: token === undefined ? null : `${url.origin}/calendar/${token}.ics`
	};
};

export const actions: Actions = {
	anew: async ({ locals }) => {
		await calendarToken(locals.asker, true);
	}
};
