import { fail, redirect } from '@sveltejs/kit';
import { NewSystem } from '$lib/api/systems';
import { amountsOf, typedIn } from '$lib/server/http/form';
import { loadDemo, isEmpty } from '$lib/server/demo/tanks';
import { unitOf } from '$core/quantities';
import { SCHOOLS } from '$core/targets';
import { createSystem, systemsOf } from '$lib/server/stores/systems';
import { unitFor } from '$lib/ui/habits';
import { volumeUnit } from '$lib/ui/mine';
import { parse } from '$lib/server/validation';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({ empty: await isEmpty() });

export const actions: Actions = {
	make: async ({ request, locals }) => {
		const typed = await typedIn(request);
		// The unit the field named.
		const typedUnit = unitOf('volume', typed['volumeUnit'] ?? '')?.name ?? volumeUnit();
		const amounts = amountsOf();
		// A school brings its own band; whoever follows none says theirs.
		const school = SCHOOLS.find((s) => s.id === typed['school'])?.targets['alkalinity'];
		const sent = parse(NewSystem, {
			id: typed['id'],
			name: typed['name']?.trim(),
			netVolumeL: amounts.read('/netVolumeL', typed['netVolumeL'], 'volume', 'L', typedUnit),
			timeZone: typed['timeZone'],
			...(typed['school'] ? { school: typed['school'] } : {}),
			...(typed['phase'] ? { phase: typed['phase'] } : {}),
			alkalinity: school
				? { lower: school.lower, upper: school.upper }
				: {
						lower: amounts.read('/alkalinity', typed['lower'], 'alkalinity', 'dKH', unitFor('alkalinity')),
						upper: amounts.read(
							'/alkalinity/upper',
							typed['upper'],
							'alkalinity',
							'dKH',
							unitFor('alkalinity')
						)
					}
		});
		const whole = amounts.and(sent);
		const first = (await systemsOf(locals.asker)).length === 0;
		const made = whole.ok ? await createSystem(locals.asker, whole.value) : whole;
		if (!made.ok) return fail(422, { typed, problems: made.problems });
		redirect(303, first ? `/begin/units?tank=${made.value.id}` : `/s/${made.value.id}/rack`);
	},
	demo: async ({ locals }) => {
		if (await isEmpty()) await loadDemo(locals.asker);
		redirect(303, '/');
	}
};
