import type { Connection } from 'mysql2/promise';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startApplication, type Application } from '../support/application';
import { databaseOf, person, signedUp, type Person } from '../support/person';

/** A server that is reached by https: its proxy would speak plain http to it, as these tests do. */
const ORIGIN = 'https://tank.example';
let application: Application;
let db: Connection;
let odile: Person;
beforeAll(async () => {
	application = await startApplication({
		mode: 'start',
		environment: { ORIGIN, TEVRIK_HSTS: 'subdomains' }
	});
	db = await databaseOf(application.data);
	odile = await signedUp(application.origin, 'Odile', { saysItComesFrom: ORIGIN });
});
afterAll(async () => {
	await db?.end();
	await application?.stop();
});

const NAME = '__Host-tevrik.session_token';
const asked = async (cookie: string, path = '/account') =>
	(await person(application.origin, cookie).ask(path)).status;

it('sets a cookie that no other host can set, and asks for https below this name too', async () => {
	const answer = await person(application.origin, '', undefined, ORIGIN).form('/signin?/in', {
		email: 'odile@boathouse.example',
		password: 'a heron at the sluice'
	});
	const set = answer.headers.getSetCookie().find((c) => c.startsWith(`${NAME}=`))!;
	for (const part of [/; Path=\//i, /; Secure/i, /; HttpOnly/i, /; SameSite=Lax/i]) expect(set).toMatch(part);
	expect(set).not.toMatch(/Domain/i);
	expect(answer.headers.get('strict-transport-security')).toBe('max-age=31536000; includeSubDomains');
});

it('takes a session by its own cookie alone: one tossed beside it is nobody, then and later', async () => {
	const own = odile.cookie.split('; ').find((c) => c.startsWith(`${NAME}=`))!;
	expect(await asked(own)).toBe(200);
	const names = ['tevrik.session_token', '__Secure-tevrik.session_token', 'x__Host-tevrik.session_token'];
	for (const name of names) {
		// A sibling subdomain tosses it onto her, before and after her own; then somebody comes with it alone.
		for (const both of [`${name}=a; ${own}`, `${own}; ${name}=a`]) expect(await asked(both), both).toBe(200);
		expect(await asked(`${name}=a`), name).toBe(303);
		expect(await asked(`${name}=a`, '/account/export'), name).toBe(303);
		expect(await asked(own.replace(NAME, name)), name).toBe(303);
	}
	expect(await asked(`${NAME}=a`)).toBe(303);
});

it('refuses two sessions at once, and has the browser drop them', async () => {
	const own = odile.cookie.split('; ').find((c) => c.startsWith(`${NAME}=`))!;
	for (const both of [`${NAME}=a; ${own}`, `${own}; ${NAME}=a`, `${own}; ${own}`]) {
		const answer = await person(application.origin).ask('/account', { headers: { cookie: both } });
		expect([both, answer.status, answer.headers.get('clear-site-data')]).toEqual([both, 400, '"cookies"']);
	}
});

it('a write that names another person than the one who is signed in is kept for that person', async () => {
	const [{ id }] = (await db.query('select id from user'))[0] as [{ id: string }];
	const habits = (who: string) =>
		odile.send('PUT', '/api/v1/habits', { language: 'en-GB' }, { 'tevrik-person': who });
	expect((await habits(crypto.randomUUID())).status).toBe(401);
	expect((await habits(id)).status).toBe(200);
});
