import { DAY } from '$core/base';
import { error } from '@sveltejs/kit';
import { now } from '$lib/server/clock';
import type { RequestHandler } from './$types';

/** It is to be looked at anew within a year (RFC 9116, 2.5.5); the file is made when it is asked for, so a month is enough, ms. */
const GOOD_FOR = 30 * DAY;

/** Who hears of a weakness of this server (RFC 9116): its operator's address, where they said one. */
export const GET: RequestHandler = ({ url }) => {
	const contact = process.env['TEVRIK_SECURITY_CONTACT'];
	if (!contact) error(404, 'Nobody was named here for that.');
	const lines = [
		`Contact: ${/^(mailto|https|tel):/.test(contact) ? contact : `mailto:${contact}`}`,
		`Expires: ${new Date(now().getTime() + GOOD_FOR).toISOString()}`,
		`Canonical: ${url.origin}/.well-known/security.txt`
	];
	return new Response(`${lines.join('\n')}\n`, {
		headers: { 'content-type': 'text/plain; charset=utf-8' }
	});
};
