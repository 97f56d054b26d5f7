import { redirect } from '@sveltejs/kit';
import { acceptInvitation, invitationBehind } from '$lib/server/identity/members';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => ({
	invitation: (await invitationBehind(params.token)) ?? null,
	name: locals.person?.name ?? null
});

export const actions: Actions = {
	default: async ({ params, locals }) => {
		const { systemId } = await acceptInvitation(locals.asker, params.token);
		redirect(303, `/s/${systemId}/rack`);
	}
};
