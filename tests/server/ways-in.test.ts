import { createHmac } from 'node:crypto';
import type { Connection } from 'mysql2/promise';
import type { Browser } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NOW, startApplication, type Application } from '../support/application';
import { DESK, newDevice, openBrowser } from '../support/browser';
import { sheetForm } from '../support/sheet';
import { until } from '../support/load';
import { databaseOf, person, shownOnce, type Person } from '../support/person';

/** An application of its own, reached by a name and behind a proxy that says where somebody comes from. */
let application: Application;
let browser: Browser;
let db: Connection;
let origin: string;
beforeAll(async () => {
	application = await startApplication({
		mode: 'start',
		host: 'localhost',
		environment: {
			ADDRESS_HEADER: 'x-forwarded-for',
			TEVRIK_LOG: 'info',
			TEVRIK_SECURITY_CONTACT: 'keeper@mill.example'
		}
	});
	({ origin } = application);
	browser = await openBrowser();
	db = await databaseOf(application.data);
});
afterAll(async () => {
	await db?.end();
	await browser?.close();
	await application?.stop();
});

const HOME = '2001:db8:1:2::7';
const from = (place = HOME, cookie = '') => person(origin, cookie, place);
const rows = async <T>(sql: string, values: unknown[] = []) => (await db.query(sql, values))[0] as T[];
const odile = { name: 'Odile', email: 'odile@mill.example', password: 'a heron at the sluice' };
const signIn = (who: Person, password = odile.password, email = odile.email) =>
	who.form('/signin?/in', { email, password });
const mailTo = async (email: string): Promise<string[]> => {
	const operator = from();
	await signIn(operator);
	const html = await (await operator.ask('/mail')).text();
	return html.includes(email) ? [html] : [];
};

it('what browsers and strangers ask any server for is what it is, and no way to the sign-in page', async () => {
	const asked = async (path: string) => {
		const answer = await from().ask(path);
		return {
			status: answer.status,
			type: answer.headers.get('content-type'),
			body: await answer.text(),
			answer
		};
	};
	// What a crawler may not fetch it lists by its name alone: it may, and reads that it is not to list it.
	expect((await asked('/robots.txt')).body).toMatch(/^Disallow:$/m);
	for (const path of ['/signin', '/signup', '/reset/nobody', '/invite/nobody'])
		expect([path, (await asked(path)).answer.headers.get('x-robots-tag')]).toEqual([path, 'noindex']);
	expect((await asked('/favicon.ico')).answer.headers.get('location')).toBe('/apple-touch-icon.png');
	expect(await asked('/apple-touch-icon.png')).toMatchObject({ status: 200, type: 'image/png' });
	const change = await asked('/.well-known/change-password');
	expect([change.status, change.answer.headers.get('location')]).toEqual([302, '/account']);
	const security = await asked('/.well-known/security.txt');
	expect(security).toMatchObject({ status: 200, type: 'text/plain; charset=utf-8' });
	// RFC 9116: one Contact or more, exactly one Expires, which has not been and is less than a year away.
	expect(security.body).toMatch(/^Contact: mailto:keeper@mill\.example$/m);
	const until = Date.parse(/^Expires: (\S+)$/m.exec(security.body)![1]!) - Date.parse(NOW);
	expect(until > 0 && until < 366 * 86_400_000).toBe(true);
	const page = await asked('/signup');
	expect(page.type).toBe('text/html; charset=utf-8');
	expect(page.body).toMatch(/name="theme-color" content="#f7f2e8"/);
});

describe('the first account', () => {
	it('is made once and runs the server, however many try at the same moment', async () => {
		const answers = await Promise.all(
			Array.from({ length: 8 }, (_, i) =>
				from(`192.0.2.${i}`).form('/signup', {
					...odile,
					email: i ? `other${i}@mill.example` : odile.email
				})
			)
		);
		expect(answers.filter((a) => a.status === 303)).toHaveLength(1);
		expect(answers.filter((a) => a.status === 422)).toHaveLength(7);
		const people = await rows<{ email: string; operator: number }>(
			'select u.email, u.operator from user u join account a on a.user_id = u.id'
		);
		expect(people).toHaveLength(1);
		expect(people[0]!.operator).toBe(1);
		await db.query('update user set email = ?, name = ?', [odile.email, odile.name]);
	});

	it('takes no password that everybody tries first', async () => {
		const me = from();
		await signIn(me);
		for (const [password, sentence] of [
			['password12345', 'everybody tries first'],
			['Liverpool1234', 'everybody tries first'],
			['aaaaaaaaaaaaaa', 'repeats itself'],
			['odile.mill.99', 'little more than your name'],
			['short', 'at least 12']
		])
			expect(
				await (await me.form('/account?/password', { current: odile.password, password: password! })).text(),
				password
			).toContain(sentence);
	});
});

let tank = '';
describe('an invitation', () => {
	it('lets one person in, however many make an account by it at once', async () => {
		const me = from();
		await signIn(me);
		tank = crypto.randomUUID();
		const made = await me.send('PUT', `/api/v1/systems/${tank}`, {
			id: tank,
			name: 'Mill race',
			netVolumeL: 300,
			timeZone: 'Europe/Dublin',
			alkalinity: { lower: 7, upper: 9 }
		});
		expect(made.status).toBe(200);
		const link = shownOnce(
			await (await me.form(`/s/${tank}/tank?/invite`, { role: 'keeper' })).text(),
			'link'
		);
		const token = link.split('/').at(-1)!;
		const answers = await Promise.all(
			Array.from({ length: 5 }, (_, i) =>
				from(`192.0.2.${20 + i}`).form(`/signup?invitation=${token}`, {
					name: `Guest ${i}`,
					email: `guest${i}@mill.example`,
					password: 'seven wet buckets'
				})
			)
		);
		expect(answers.filter((a) => a.status === 303)).toHaveLength(1);
		expect(await rows('select id from user')).toHaveLength(2);
		expect(await rows('select user_id from membership where system_id = ?', [tank])).toHaveLength(2);
	});
});

describe('wrong passwords', () => {
	it('slow one account down, and neither its household nor a device that knows it', async () => {
		await db.query('delete from attempt');
		const known = from('198.51.100.9');
		await signIn(known);
		// Somebody else in the house tries and tries.
		const child = from();
		for (let i = 0; i < 8; i++) await signIn(child, `guess number ${i}`);
		expect(await (await signIn(child)).text()).toMatch(/Wait \d+ (seconds|minutes)/);
		// The other address of the same household's network is the same place; another account there is not slowed.
		expect(await (await signIn(from('2001:db8:1:2:ffff::1'))).text()).toMatch(/Too many tries/);
		const [guest] = await rows<{ email: string }>("select email from user where email like 'guest%'");
		expect((await signIn(from(), 'seven wet buckets', guest!.email)).status).toBe(303);
		// A botnet tries from everywhere: where the account was signed in to before it still opens.
		for (let i = 0; i < 26; i++) await signIn(from(`203.0.113.${i}`), `guess number ${i}`);
		expect(await (await signIn(from('203.0.113.200'))).text()).toMatch(/Too many tries/);
		const again = person(
			origin,
			known.cookie
				.split('; ')
				.filter((c) => c.includes('known'))
				.join('; '),
			'198.51.100.9'
		);
		expect((await signIn(again)).status).toBe(303);
		await db.query('delete from attempt');
	});

	it('of somebody signed in are slowed too', async () => {
		const me = from();
		await signIn(me);
		const answers: string[] = [];
		for (let i = 0; i < 8; i++)
			answers.push(
				await (
					await me.form('/account?/password', { current: `guess ${i}`, password: 'nine grey herons' })
				).text()
			);
		expect(answers[0]).toContain('is not your password');
		expect(answers.at(-1)).toMatch(/Wait \d+ seconds?/);
		await db.query('delete from attempt');
	});
});

describe('links and sessions', () => {
	it('an older link for a new password ends with a newer, and none can be read from the database', async () => {
		const link = async () => {
			await from().form('/forgot', { email: odile.email });
			const [html] = await mailTo(odile.email);
			return /\/reset\/[\w-]+/.exec(html!)![0];
		};
		const older = await link();
		const newer = await link();
		expect(newer).not.toBe(older);
		const secret = newer.split('/').at(-1)!;
		const kept = JSON.stringify([await rows('select * from verification'), await rows('select * from mail')]);
		expect(kept).not.toContain(secret);
		expect((await from().form(older, { password: 'nine grey herons' })).status).toBe(422);
		expect((await from().form(newer, { password: odile.password })).status).toBe(200);
		await db.query('delete from attempt');
	});

	it('a new sign-in on a device ends its old session', async () => {
		const me = from();
		await signIn(me);
		const before = me.cookie;
		await signIn(me);
		expect((await from(HOME, before).ask('/account')).status).toBe(303);
		expect((await me.ask('/account')).status).toBe(200);
	});

	it('the secret of a calendar stands nowhere', async () => {
		const me = from();
		await signIn(me);
		const html = await (await me.ask(`/s/${tank}/reminders`)).text();
		const secret = /\/calendar\/([\w-]+)\.ics/.exec(html)![1]!;
		expect((await from().ask(`/calendar/${secret}.ics`)).status).toBe(200);
		expect(await (await me.ask(`/s/${tank}/reminders`)).text()).toContain(secret);
		expect(JSON.stringify(await rows('select * from user'))).not.toContain(secret);
	});

	it.each([
		['/%09/evil.example', 400],
		['/%0a/evil.example', 400],
		['//evil.example', 303],
		['/%5cevil.example', 303],
		['/\\evil.example', 303],
		['https://evil.example/', 303],
		['/..//evil.example', 303]
	])('to=%s leads nowhere but to this server', async (to, status) => {
		const led = await from().form(`/signin?/in&to=${to}`, { email: odile.email, password: odile.password });
		expect(led.status).toBe(status);
		if (status === 303) expect(new URL(led.headers.get('location')!, origin).origin).toBe(origin);
	});
});

/** RFC 6238 with SHA-1, six digits, thirty seconds: what an authenticator shows now. */
function codeNow(secret: string, ahead = 0): string {
	const bits = [...secret.replaceAll(' ', '')]
		.map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0'))
		.join('');
	const key = Buffer.from(bits.match(/.{8}/g)!.map((b) => parseInt(b, 2)));
	const counter = Buffer.alloc(8);
	counter.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000) + ahead));
	const mac = createHmac('sha1', key).update(counter).digest();
	const at = mac.at(-1)! & 15;
	return String((mac.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}

describe('a second step', () => {
	const guest = { email: '', password: 'seven wet buckets' };
	let recovery: string[] = [];
	let secret = '';

	it('is set up with an authenticator that proves itself', async () => {
		guest.email = (
			await rows<{ email: string }>("select email from user where email like 'guest%'")
		)[0]!.email;
		const me = from();
		await signIn(me, guest.password, guest.email);
		expect(await (await me.form('/account?/secondStep', { present: 'wrong words' })).text()).toContain(
			'is not your password'
		);
		const html = await (await me.form('/account?/secondStep', { present: guest.password })).text();
		secret = /data-testid="secret"[^>]*>([^<]+)</.exec(html)![1]!.trim();
		recovery = [...html.slice(html.indexOf('data-testid="recovery"')).matchAll(/<li>([^<]+)<\/li>/g)]
			.map((m) => m[1]!)
			.slice(0, 10);
		expect(recovery).toHaveLength(10);
		// Until it has shown a code, nothing changes.
		expect((await signIn(from(), guest.password, guest.email)).status).toBe(303);
		expect((await me.form('/account?/confirm', { code: '000000' })).status).toBe(422);
		expect(await (await me.form('/account?/confirm', { code: codeNow(secret) })).text()).toContain('is on');
		const kept = JSON.stringify(await rows('select * from two_factor'));
		for (const word of [secret.replaceAll(' ', ''), recovery[0]!]) expect(kept).not.toContain(word);
	});

	it('is asked after the password: a wrong code opens nothing, the right one and each recovery code once', async () => {
		const enter = async () => {
			const who = from();
			const asked = await signIn(who, guest.password, guest.email);
			expect(await asked.text()).toContain('six digits');
			expect((await who.ask('/account')).status).toBe(303);
			return who;
		};
		const wrong = await enter();
		expect(await (await wrong.form('/signin?/code', { code: '123456' })).text()).toContain('is not right');
		expect((await wrong.ask('/account')).status).toBe(303);
		// A code counts once: the one that switched it on, and each that let somebody in.
		expect((await wrong.form('/signin?/code', { code: codeNow(secret) })).status).toBe(422);
		const fresh = codeNow(secret, 1);
		const twice = await Promise.all(
			[wrong, await enter()].map((who) => who.form('/signin?/code', { code: fresh }))
		);
		expect(twice.map((a) => a.status).sort()).toEqual([303, 422]);
		if (twice[0]!.status !== 303)
			expect((await wrong.form('/signin?/code', { code: recovery[4]! })).status).toBe(303);
		expect((await wrong.ask('/account')).status).toBe(200);
		expect((await (await enter()).form('/signin?/code', { code: recovery[3]! })).status).toBe(303);
		expect((await (await enter()).form('/signin?/code', { code: recovery[3]! })).status).toBe(422);
		expect((await mailTo(guest.email))[0]).toContain('recovery code of Tevrik was used');
		await db.query('delete from attempt');
	});

	it('a passkey opens without password or code, is added by whoever knows the password, and asks who holds it', async () => {
		const page = await newDevice(browser, DESK);
		await page.setExtraHTTPHeaders({ 'x-forwarded-for': HOME });
		const session = await page.createCDPSession();
		await session.send('WebAuthn.enable');
		const { authenticatorId } = await session.send('WebAuthn.addVirtualAuthenticator', {
			options: {
				protocol: 'ctap2',
				transport: 'internal',
				hasResidentKey: true,
				hasUserVerification: true,
				isUserVerified: true,
				automaticPresenceSimulation: true
			}
		});
		const goes = (path: string) =>
			page.waitForFunction(
				(wanted) => location.pathname === wanted && 'ready' in document.documentElement.dataset,
				{},
				path
			);
		await page.goto(`${origin}/signin?to=/account`);
		await page.waitForSelector('html[data-ready]');
		await page.type('input[name=email]', odile.email);
		await page.type('input[name=password]', odile.password);
		await page.keyboard.press('Enter');
		await goes('/account');
		await page.type('input[name=passkeyName]', 'the mill’s tablet');
		await page.type('input[name=passkeyPassword]', 'not hers at all');
		await page.keyboard.press('Enter');
		await page.waitForFunction(() => /is not your password/.test(document.body.textContent!));
		await page.$eval('input[name=passkeyPassword]', (field) => ((field as HTMLInputElement).value = ''));
		await page.type('input[name=passkeyPassword]', odile.password);
		await page.keyboard.press('Enter');
		await page.waitForSelector('button[aria-label="Remove the mill’s tablet"]');
		await page.click('form[action="?/out"] button');
		await goes('/signin');
		// Whoever found the device cannot unlock it: no way in, whatever the browser was told to ask for.
		await session.send('WebAuthn.setUserVerified', { authenticatorId, isUserVerified: false });
		const unlocked = await page.evaluate(async () => {
			const asked = (await (await fetch('/signin/passkey')).json()) as PublicKeyCredentialRequestOptionsJSON;
			const options = PublicKeyCredential.parseRequestOptionsFromJSON({
				...asked,
				userVerification: 'discouraged'
			});
			const key = (await navigator.credentials.get({ publicKey: options })) as PublicKeyCredential;
			const sent = await fetch('/signin/passkey', {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ response: key.toJSON() })
			});
			return [asked.userVerification, sent.status, ((await sent.json()) as { detail: string }).detail];
		});
		expect(unlocked).toEqual(['required', 422, expect.stringContaining('fingerprint, face or PIN')]);
		await session.send('WebAuthn.setUserVerified', { authenticatorId, isUserVerified: true });
		await page.$$eval('main button', (all) => all.find((b) => b.textContent!.includes('passkey'))!.click());
		await page.waitForFunction(() => location.pathname.endsWith('/rack'));
		await page.goto(`${origin}/account`);
		await page.waitForSelector('html[data-ready]');
		await page.click('button[aria-label="Remove the mill’s tablet"]');
		await page.waitForFunction(() => /opens nothing any more/.test(document.body.textContent!));
		expect(await rows('select id from passkey')).toEqual([]);
		// A wrong password and a key that nobody unlocked were refused; the browser says so of each.
		expect(page.wrongs).toEqual(Array(2).fill(expect.stringContaining('422')));
		await page.browserContext().close();
	});
});

describe('a reset', () => {
	it('lists what else opens the account, and ends it where that is wanted', async () => {
		const me = from();
		await signIn(me);
		await me.form('/account?/token', {
			name: 'forgotten script',
			which: 'all',
			days: '0',
			tokenPassword: odile.password
		});
		const [{ id }] = (await rows('select id from user where email = ?', [odile.email])) as [{ id: string }];
		await db.query(
			"insert into passkey (id, name, public_key, user_id, credential_id, counter, device_type, backed_up) values (uuid(), 'a strange phone', 'k', ?, 'c', 0, 'singleDevice', 0)",
			[id]
		);
		const reset = async (fields: Record<string, string>) => {
			await from().form('/forgot', { email: odile.email });
			const link = /\/reset\/[\w-]+/.exec((await mailTo(odile.email))[0]!)![0];
			const listed = await (await from().ask(link)).text();
			expect((await from().form(link, { password: odile.password, ...fields })).status).toBe(200);
			expect(await (await from().ask(link)).text()).not.toContain('a strange phone');
			return listed;
		};
		const listed = await reset({});
		expect(listed).toContain('a strange phone');
		expect(listed).toContain('forgotten script');
		const left = () =>
			rows('select name from passkey where user_id = ? union select name from api_token where user_id = ?', [
				id,
				id
			]);
		expect(await left()).toHaveLength(2);
		await reset({ endOthers: 'on' });
		expect(await left()).toEqual([]);
		await db.query('delete from attempt');
	});
});

describe('tokens', () => {
	const make = async (fields: Record<string, string>) => {
		const me = from();
		await signIn(me);
		const html = await (
			await me.form('/account?/token', {
				name: 'script',
				which: 'all',
				days: '0',
				tokenPassword: odile.password,
				...fields
			})
		).text();
		return shownOnce(html, 'token');
	};
	const ask = (token: string, method: string, path: string, body?: BodyInit, type = 'application/json') =>
		fetch(`${origin}/api/v1${path}`, {
			method,
			headers: {
				authorization: `Bearer ${token}`,
				...(body instanceof FormData ? {} : { 'content-type': type })
			},
			...(body === undefined ? {} : { body })
		});

	it('are made by whoever knows the password, and told by mail', async () => {
		const me = from();
		await signIn(me);
		for (const tokenPassword of ['', 'not hers at all'])
			expect(
				await (
					await me.form('/account?/token', { name: 'thief', which: 'all', days: '0', tokenPassword })
				).text()
			).toContain('is not your password');
		expect(await rows('select id from api_token')).toEqual([]);
		await make({ name: 'barometer' });
		expect((await mailTo(odile.email))[0]).toContain('A token for your Tevrik was made');
		await db.query('delete from api_token');
		await db.query('delete from attempt');
	});

	it('for certain tanks make nothing beside them', async () => {
		const token = await make({ which: 'some', system: tank, writes: 'on' });
		expect((await ask(token, 'PATCH', `/systems/${tank}`, '{"phase":"young"}')).status).toBe(200);
		const id = crypto.randomUUID();
		const other = { id, name: 'x', netVolumeL: 1, timeZone: 'UTC', alkalinity: { lower: 7, upper: 9 } };
		expect((await ask(token, 'PUT', `/systems/${id}`, JSON.stringify(other))).status).toBe(403);
		const book = await (await ask(token, 'GET', `/systems/${tank}/book`)).text();
		expect((await ask(token, 'PUT', `/systems/${id}/book`, book)).status).toBe(403);
		const { methods } = (await (await ask(token, 'GET', '/methods')).json()) as {
			methods: { profile: object }[];
		};
		const method = JSON.stringify({ profile: methods[0]!.profile });
		expect((await ask(token, 'PUT', `/methods/${id}`, method)).status).toBe(403);
	});

	it('end by their date, and with the password if they were to', async () => {
		const dated = await make({ days: '30' });
		expect((await ask(dated, 'GET', '/systems')).status).toBe(200);
		await db.query("update api_token set expires_at = '2020-01-01' where expires_at is not null");
		expect((await ask(dated, 'GET', '/systems')).status).toBe(401);
		const [bound, free] = [await make({ endsWithPassword: 'on' }), await make({})];
		const me = from();
		await signIn(me);
		const changed = await me.form('/account?/password', {
			current: odile.password,
			password: 'nine grey herons'
		});
		expect(await changed.text()).toContain('new password is set');
		odile.password = 'nine grey herons';
		expect((await ask(bound, 'GET', '/systems')).status).toBe(401);
		expect((await ask(free, 'GET', '/systems')).status).toBe(200);
		expect((await mailTo(odile.email))[0]).toContain('Your password for Tevrik is new');
	});

	it('of a program import a sheet without saying where the program comes from; a foreign page’s form is refused', async () => {
		const token = await make({ writes: 'on' });
		const taken = await ask(token, 'POST', `/systems/${tank}/imports`, sheetForm(1, 2025));
		expect([taken.status, await taken.text()]).toEqual([200, expect.stringContaining('"kind":"done"')]);
		const me = from();
		await signIn(me);
		const foreign = await fetch(`${origin}/api/v1/systems/${tank}/imports`, {
			method: 'POST',
			headers: { cookie: me.cookie, origin: 'https://evil.example' },
			body: sheetForm(1, 2025)
		});
		expect(foreign.status).toBe(403);
	});
});

describe('what is said', () => {
	it('answers of every kind carry the headers', async () => {
		const me = from();
		await signIn(me);
		const script = /\/_app\/immutable\/[^"]+\.js/.exec(await (await from().ask('/signin')).text())![0];
		for (const [path, status, who] of [
			['/', 303, from()],
			['/api/v1/systems', 401, from()],
			['/nowhere', 404, me],
			['/mail', 200, me],
			['/icon.svg', 200, from()],
			[script, 200, from()],
			[`/s/${tank}/rack`, 200, me],
			['/signin?to=%09', 400, from()],
			['/healthz', 200, from()]
		] as const) {
			const { status: got, headers } = await who.ask(path);
			expect([path, got]).toEqual([path, status]);
			expect([path, headers.get('x-content-type-options'), headers.get('x-frame-options')]).toEqual([
				path,
				'nosniff',
				'DENY'
			]);
			expect(headers.get('content-security-policy'), path).toContain("frame-ancestors 'none'");
			expect(headers.get('referrer-policy'), path).toBe('same-origin');
		}
		for (const path of [`/s/${tank}/rack`, `/s/${tank}/rack/__data.json`, '/account'])
			expect((await me.ask(path)).headers.get('cache-control'), path).toMatch(/no-store/);
	});

	it('the log leads from a page’s number to what went wrong, and holds no secret, search or letter', async () => {
		const me = from();
		await signIn(me);
		await db.query('rename table event to event_away');
		const search = 'a-private-search';
		const page = await me.ask(`/s/${tank}/readings?text=${search}`);
		const note = await me.send('PUT', `/api/v1/events/${crypto.randomUUID()}`, {
			systemId: tank,
			at: '2026-05-01T10:00:00Z',
			event: { kind: 'note', text: 'a private letter' }
		});
		await db.query('rename table event_away to event');
		expect([page.status, note.status]).toEqual([500, 500]);
		const { id } = (await note.json()) as { id: string };
		await until('the line in the log', () => application.said().includes(id));
		const line = application
			.said()
			.split('\n')
			.find((l) => l.includes(id))!;
		expect(JSON.parse(line)).toMatchObject({
			id,
			method: 'PUT',
			route: '/api/v1/events/[id=uuid]',
			err: { errno: 1146 }
		});
		// Ways in are told, and of whom without telling who it is.
		await from().form('/signin?/in', { email: odile.email, password: 'not hers at all' });
		await until('the sign-in in the log', () => /"outcome":"wrong"/.test(application.said()));
		const signIns = application
			.said()
			.split('\n')
			.flatMap((l) =>
				l.includes('"msg":"sign-in"') ? [JSON.parse(l) as { who: string; outcome: string }] : []
			);
		const { who } = signIns.at(-1)!;
		expect(signIns.filter((l) => l.who === who).map((l) => l.outcome)).toEqual(
			expect.arrayContaining(['right', 'wrong'])
		);
		const html = await page.text();
		expect(application.said()).toContain(/[0-9a-f]{8}-[0-9a-f-]{27}(?=<)/.exec(html)![0]);
		for (const secret of [
			search,
			'private letter',
			odile.email,
			odile.password,
			me.cookie.split('=')[1]!.slice(0, 20)
		])
			expect(application.said()).not.toContain(secret);
	});
});

it('an account and its data are taken away and deleted; what others share stays without its name', async () => {
	const email = (await rows<{ email: string }>("select email from user where email like 'guest%'"))[0]!.email;
	const operator = from();
	await signIn(operator);
	const link = shownOnce(
		await (await operator.form(`/s/${tank}/tank?/invite`, { role: 'keeper' })).text(),
		'link'
	);
	const visitor = from();
	const password = 'five brown eels';
	await visitor.form(`/signup?invitation=${link.split('/').at(-1)}`, {
		name: 'Visitor',
		email: 'visitor@mill.example',
		password
	});
	const own = crypto.randomUUID();
	await visitor.send('PUT', `/api/v1/systems/${own}`, {
		id: own,
		name: 'Jar',
		netVolumeL: 20,
		timeZone: 'UTC',
		alkalinity: { lower: 7, upper: 9 }
	});
	await visitor.send('PUT', `/api/v1/events/${crypto.randomUUID()}`, {
		systemId: tank,
		at: '2026-05-01T10:00:00Z',
		event: { kind: 'note', text: 'fed the eels' }
	});
	const bottle = crypto.randomUUID();
	await visitor.send('PUT', `/api/v1/supplements/${bottle}`, {
		profile: {
			format: 'tevrik.supplement/1',
			id: bottle,
			name: 'Soda of the mill',
			kind: 'solution',
			composition: { recipe: { salt: 'NaHCO3', gramsPerL: 80 } }
		}
	});
	// Plans they follow: of a tank that goes with them, and of one that stays.
	const [me] = (await rows("select id from user where email = 'visitor@mill.example'")) as { id: string }[];
	for (const of of [own, tank])
		await rows('insert into plan (id, system_id, made_at, by_user_id, body) values (?, ?, now(3), ?, ?)', [
			crypto.randomUUID(),
			of,
			me!.id,
			JSON.stringify({ wish: {}, request: { parameters: [] }, result: { steps: [] }, done: {} })
		]);
	// A reading with its picture in each of the two tanks.
	const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#77a' } })
		.jpeg()
		.toBuffer();
	const { methods } = await visitor.json<{ methods: { versionId: string; profile: { id: string } }[] }>(
		'/api/v1/methods'
	);
	for (const of of [own, tank]) {
		const { sources } = await visitor.json<{ sources: { id: string }[] }>(`/api/v1/systems/${of}`);
		const reading = crypto.randomUUID();
		const at = '2026-05-01T10:00:00Z';
		const saved = await visitor.send('PUT', `/api/v1/readings/${reading}`, {
			sourceId: sources[0]!.id,
			sampleId: crypto.randomUUID(),
			takenAt: at,
			methodVersionId: methods.find((m) => m.profile.id === 'alk-syringe-6')!.versionId,
			sampleSize: 'full',
			reading: { left: 0.48 }
		});
		const shot = await visitor.send('PUT', `/api/v1/photos/${crypto.randomUUID()}`, {
			readingId: reading,
			at,
			picture: picture.toString('base64')
		});
		expect([saved.status, shot.status]).toEqual([200, 200]);
	}
	const everything = (await (await visitor.ask('/account/export')).json()) as {
		format: string;
		supplements: { profile: { name: string } }[];
		person: { email: string };
		tanks: { format: string; system: { name: string } }[];
	};
	expect(everything).toMatchObject({
		format: 'tevrik.account/1',
		person: { email: 'visitor@mill.example' },
		habits: {}
	});
	expect(everything.tanks.map((t) => t.system.name).sort()).toEqual(['Jar', 'Mill race']);
	expect(everything.supplements).toMatchObject([{ profile: { name: 'Soda of the mill' }, finished: false }]);
	expect(JSON.stringify(everything)).not.toMatch(/argon2|"hash"/);

	expect((await visitor.form('/account?/delete', { farewell: 'not it at all' })).status).toBe(422);
	expect((await visitor.form('/account?/delete', { farewell: password })).status).toBe(303);
	expect((await visitor.ask('/account')).status).toBe(303);
	expect(await rows('select id from system where id = ?', [own])).toEqual([]);
	expect(await rows('select id from supplement where id = ?', [bottle])).toEqual([]);
	for (const table of ['plan', 'photo'])
		expect(await rows(`select system_id from ${table} where by_user_id = ?`, [me!.id])).toEqual([
			{ system_id: tank }
		]);
	expect(JSON.stringify(await rows('select name, email from user'))).not.toMatch(/visitor/i);
	expect(await (await operator.ask(`/s/${tank}/readings`)).text()).toContain('fed the eels');
	// Whoever runs the only account that owns a shared tank hands it over first.
	expect(await (await operator.form('/account?/delete', { farewell: odile.password })).text()).toContain(
		'make one of them an owner'
	);
	expect(email).toMatch(/guest/);
});
