import { fail, redirect } from '@sveltejs/kit';
import { NewSystem } from '$lib/api/systems';
import { amountsOf, typedIn } from '$lib/server/http/form';
import { loadDemo, isEmpty } from '$lib/server/demo/tanks';
import { createSystem } from '$lib/server/stores/systems';
import { parse } from '$lib/server/validation';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({ empty: await isEmpty() });

export const actions: Actions = {
	make: async ({ request, locals }) => {
		const typed = await typedIn(request);
		const amounts = amountsOf();
		const sent = parse(NewSystem, {
			id: typed['id'],
			name: typed['name']?.trim(),
			netVolumeL: amounts.read('/netVolumeL', typed['netVolumeL'], 'volume', 'L'),
			timeZone: typed['timeZone'],
			...(typed['school'] ? { school: typed['school'] } : {}),
			...(typed['phase'] ? { phase: typed['phase'] } : {}),
			alkalinity: {
				lower: amounts.read('/alkalinity', typed['lower'], 'alkalinity', 'dKH'),
				upper: amounts.read('/alkalinity/upper', typed['upper'], 'alkalinity', 'dKH')
			}
		});
		const whole = amounts.and(sent);
		const made = whole.ok ? await createSystem(locals.asker, whole.value) : whole;
		if (!made.ok) return fail(422, { typed, problems: made.problems });
		redirect(303, `/s/${made.value.id}/bench/one?of=alkalinity`);
	},
	demo: async ({ locals }) => {
		if (await isEmpty()) await loadDemo(locals.asker);
		redirect(303, '/');
	}
};
