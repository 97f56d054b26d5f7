import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { NOW, startApplication, type Application } from '../support/application';
import { databaseOf, person, shownOnce, signedUp, type Person } from '../support/person';

/** Pages say what is so now, and carry nothing of anybody else. */
const folder = mkdtempSync(join(tmpdir(), 'tevrik-clock-'));
const clock = join(folder, 'clock');
const turnTo = (iso: string) => writeFileSync(clock, iso);
let application: Application;
let mara: Person;
let tank: string;
beforeAll(async () => {
	turnTo(NOW);
	application = await startApplication({ mode: 'start', now: `file:${clock}` });
	mara = await signedUp(application.origin, 'Mara');
	tank = uuid();
	const made = await mara.form('/begin?/make', {
		id: tank,
		name: 'Cellar',
		netVolumeL: '95',
		timeZone: 'Europe/Dublin',
		school: 'natural levels',
		phase: 'settled',
		lower: '7',
		upper: '9'
	});
	expect(made.status).toBe(303);
});
afterAll(async () => {
	await application?.stop();
	rmSync(folder, { recursive: true });
});

/** Another device that she has signed in on. */
const device = async (): Promise<Person> => {
	const own = person(application.origin);
	await own.form('/signin?/in', { email: 'mara@boathouse.example', password: 'a heron at the sluice' });
	return own;
};
const seen = async (who: Person, path: string) => {
	const response = await who.ask(path);
	return { headers: response.headers, html: await response.text(), status: response.status };
};
const nonceOf = ({ headers, html }: { headers: Headers; html: string }) => {
	const said = /'nonce-([^']+)'/.exec(headers.get('content-security-policy') ?? '')![1]!;
	expect(html).toContain(`nonce="${said}"`);
	return said;
};
const rack = () => `/s/${tank}/rack`;
async function measured(left: number) {
	const { sources } = await mara.json<{ sources: { id: string }[] }>(`/api/v1/systems/${tank}`);
	const { methods } = await mara.json<{ methods: { versionId: string; profile: { id: string } }[] }>(
		'/api/v1/methods'
	);
	const id = uuid();
	const saved = await mara.send('PUT', `/api/v1/readings/${id}`, {
		sourceId: sources[0]!.id,
		sampleId: uuid(),
		takenAt: NOW,
		methodVersionId: methods.find((m) => m.profile.id === 'alk-syringe-6')!.versionId,
		sampleSize: 'full',
		reading: { left }
	});
	expect(saved.status).toBe(200);
	return id;
}

it('come each time with another nonce and the time that it is, and the same otherwise', async () => {
	const first = await seen(mara, rack());
	turnTo('2026-05-06T20:10:25.000Z');
	const second = await seen(mara, rack());
	turnTo(NOW);
	const [one, other] = [nonceOf(first), nonceOf(second)];
	expect(one).not.toBe(other);
	const same = (html: string, nonce: string, time: string) => html.replaceAll(nonce, '').replaceAll(time, '');
	expect(same(second.html, other, '2026-05-06T20:10:25.000Z')).toBe(
		same(first.html, one, '2026-05-06T20:10:00.000Z')
	);
	expect(Number(second.headers.get('tevrik-now'))).toBe(Date.parse('2026-05-06T20:10:25Z'));
});

it('show what is written at once, in pages and in the data that goes for them', async () => {
	const data = `/s/${tank}/rack/__data.json`;
	const has = async () => [
		(await seen(mara, rack())).html.includes('9.3 '),
		(await seen(mara, data)).html.includes('9.25')
	];
	expect(await has()).toEqual([false, false]);
	const id = await measured(0.45);
	expect(await has()).toEqual([true, true]);
	expect((await mara.send('PUT', `/api/v1/readings/${id}/void`, { reason: 'a trial' })).status).toBe(200);
	expect(await has()).toEqual([false, false]);
});

it('are of one person and one theme, and carry nobody’s session to another device', async () => {
	const night = person(application.origin, `${mara.cookie}; theme=night`);
	const isDark = ({ html }: { html: string }) => /<html[^>]*class="dark"/.test(html);
	expect([isDark(await seen(mara, rack())), isDark(await seen(night, rack()))]).toEqual([false, true]);
	expect((await seen(person(application.origin), rack())).status).toBe(303);
	// Two devices of hers whose sessions are due to be prolonged: each is given its own cookie, and no other.
	const [phone, tablet] = [await device(), await device()];
	const db = await databaseOf(application.data);
	await db.query('update session set expires_at = date_sub(expires_at, interval 3 day)');
	await db.query('insert into stamp select id, 7 from user on duplicate key update value = 7');
	await db.end();
	const own = (who: Person) => /session_token=([^.;%]+)/.exec(who.cookie)![1]!;
	const before = [own(phone), own(tablet)];
	let prolonged = 0;
	for (const [i, who] of [phone, tablet, phone, tablet].entries()) {
		const { headers, status } = await seen(who, rack());
		expect(status).toBe(200);
		for (const cookie of headers.getSetCookie().filter((c) => c.includes('session_token'))) {
			expect(cookie).toContain(before[i % 2]);
			prolonged++;
		}
	}
	expect(prolonged).toBeGreaterThan(1);
	await phone.form('/account?/out', {});
	expect((await seen(phone, rack())).status).toBe(303);
	expect((await seen(tablet, rack())).status).toBe(200);
});

it('tell strangers at once what whoever runs the server has changed', async () => {
	const stranger = person(application.origin);
	const operator = await device();
	for (const open of ['yes', 'no']) {
		expect((await operator.form('/mail?/signup', { open })).status).toBeLessThan(400);
		expect((await seen(stranger, '/signin')).html.includes('href="/signup"')).toBe(open === 'yes');
	}
});

it('show one member what another has written, at once, and nothing more when they are no member', async () => {
	const owner = await device();
	const made = await owner.form(`/s/${tank}/tank?/invite`, { role: 'keeper' });
	const link = new URL(shownOnce(await made.text(), 'link'));
	const wenna = await signedUp(application.origin, 'Wenna', { invitation: link.pathname.split('/').at(-1)! });
	await wenna.form(`${link.pathname}?/join`, {});
	await seen(wenna, rack());
	await owner.form(`/s/${tank}/tank?/about`, {
		name: 'Cellar, renamed',
		timeZone: 'Europe/Dublin',
		phase: 'settled',
		salinityPsu: '35',
		volume: 'measured',
		netVolumeL: '95'
	});
	expect((await seen(wenna, rack())).html).toContain('Cellar, renamed');
	const page = await (await owner.ask(`/s/${tank}/tank`)).text();
	const [, id = ''] = /Wenna[\s\S]*?name="id" value="([^"]+)"/.exec(page.slice(page.indexOf('People'))) ?? [];
	expect((await owner.form(`/s/${tank}/tank?/member`, { id, role: 'none' })).status).toBeLessThan(400);
	expect((await seen(wenna, rack())).status).toBe(404);
});
