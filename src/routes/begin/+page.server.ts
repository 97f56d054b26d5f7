import { fail, redirect } from '@sveltejs/kit';
import { parseEntry } from '$core/quantities';
import { NewSystem } from '$lib/api/systems';
import { loadDemo, isEmpty } from '$lib/server/demo/tanks';
import { createSystem } from '$lib/server/stores/systems';
import { parse } from '$lib/server/validation';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({ empty: await isEmpty() });

/** A number as people write it, or the text itself, for the schema to refuse. */
const number = (text: FormDataEntryValue | null) => {
	const entry = parseEntry(String(text ?? ''));
	return entry.ok && entry.value.number.kind === 'exact' ? entry.value.number.value : String(text);
};

export const actions: Actions = {
	make: async ({ request, locals }) => {
		const form = await request.formData();
		const typed = Object.fromEntries([...form].map(([key, value]) => [key, String(value)]));
		const sent = parse(NewSystem, {
			id: typed['id'],
			name: typed['name']?.trim(),
			netVolumeL: number(form.get('netVolumeL')),
			timeZone: typed['timeZone'],
			...(typed['school'] ? { school: typed['school'] } : {}),
			...(typed['phase'] ? { phase: typed['phase'] } : {}),
			alkalinity: { lower: number(form.get('lower')), upper: number(form.get('upper')) }
		});
		const made = sent.ok ? await createSystem(locals.asker, sent.value) : sent;
		if (!made.ok) return fail(422, { typed, problems: made.problems });
		redirect(303, `/s/${made.value.id}/bench/one?of=alkalinity`);
	},
	demo: async ({ locals }) => {
		if (await isEmpty()) await loadDemo(locals.asker);
		redirect(303, '/');
	}
};
