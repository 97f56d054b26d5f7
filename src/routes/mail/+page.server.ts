import { typedIn } from '$lib/server/http/form';
import { outgoingMail } from '$lib/server/identity/mail';
import { openSignUp, signUpIsOpen } from '$lib/server/identity/settings';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	mails: await outgoingMail(locals.asker),
	open: await signUpIsOpen()
});

export const actions: Actions = {
	signup: async ({ request, locals }) => {
		await openSignUp(locals.asker, (await typedIn(request))['open'] === 'yes');
	}
};
