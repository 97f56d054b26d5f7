import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { NOW, startApplication, type Application } from '../support/application';
import { person, shownOnce, signedUp, type Person } from '../support/person';

/** Pages that are sent again as they were made: they say what is so now, and nobody is shown another's. */
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

const seen = async (who: Person, path: string) => {
	const response = await who.ask(path);
	return {
		kept: response.headers.get('server-timing') === 'kept',
		headers: response.headers,
		html: await response.text(),
		status: response.status
	};
};
/** Asked until it comes as it was made before: what is kept is put away after it was sent. */
async function again(who: Person, path: string) {
	for (let i = 0; i < 50; i++) {
		const page = await seen(who, path);
		if (page.kept) return page;
	}
	throw new Error(`${path} is never kept`);
}
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

it('comes again with another nonce and the time that it is, and the same otherwise', async () => {
	const made = await seen(mara, rack());
	expect(made.kept).toBe(false);
	const first = await again(mara, rack());
	turnTo('2026-05-06T20:10:25.000Z');
	const second = await again(mara, rack());
	const nonces = [made, first, second].map(nonceOf);
	expect(new Set(nonces).size).toBe(3);
	expect(second.html).toContain('2026-05-06T20:10:25.000Z');
	expect(second.html).not.toContain('2026-05-06T20:10:00.000Z');
	const same = (page: { html: string }, nonce: string, time: string) =>
		page.html.replaceAll(nonce, '').replaceAll(time, '');
	expect(same(second, nonces[2]!, '2026-05-06T20:10:25.000Z')).toBe(
		same(made, nonces[0]!, '2026-05-06T20:10:00.000Z')
	);
	expect(Number(second.headers.get('tevrik-now'))).toBe(Date.parse('2026-05-06T20:10:25Z'));
	// What it says of how long ago things were is made anew with the minute.
	turnTo('2026-05-06T20:11:01Z');
	expect((await seen(mara, rack())).kept).toBe(false);
	turnTo(NOW);
});

it('shows what is written at once, in pages and in the data that goes for them', async () => {
	const data = `/s/${tank}/rack/__data.json`;
	await again(mara, rack());
	await again(mara, data);
	const id = await measured(0.48);
	for (const path of [rack(), data]) {
		const page = await seen(mara, path);
		expect(page.kept).toBe(false);
		expect(page.html).toMatch(/alkalinity/);
		expect(page.html).toContain(path === data ? '8.64' : '8.6');
	}
	await again(mara, rack());
	expect((await mara.send('PUT', `/api/v1/readings/${id}/void`, { reason: 'a trial' })).status).toBe(200);
	const after = await seen(mara, rack());
	expect([after.kept, after.html.includes('8.6 ')]).toEqual([false, false]);
});

it('is of one person and one theme, and of nobody who has left', async () => {
	await again(mara, rack());
	const night = person(application.origin, `${mara.cookie}; theme=night`);
	const dark = await seen(night, rack());
	expect([dark.kept, /<html[^>]*class="dark"/.test(dark.html)]).toEqual([false, true]);
	expect(/<html[^>]*class="dark"/.test((await again(mara, rack())).html)).toBe(false);
	const stranger = person(application.origin);
	expect((await seen(stranger, rack())).status).toBe(303);
	await mara.form('/mail?/signup', { open: 'yes' });
	const bran = await signedUp(application.origin, 'Bran');
	expect((await seen(bran, rack())).status).toBe(404);
	const elsewhere = person(application.origin, mara.cookie);
	expect((await again(elsewhere, rack())).status).toBe(200);
	await mara.form('/account?/out', {});
	expect((await seen(elsewhere, rack())).status).toBe(303);
});

it('tells strangers at once what whoever runs the server has changed', async () => {
	const stranger = person(application.origin);
	expect((await again(stranger, '/signin')).html).toContain('href="/signup"');
	const operator = person(application.origin);
	await operator.form('/signin?/in', { email: 'mara@boathouse.example', password: 'a heron at the sluice' });
	expect((await operator.form('/mail?/signup', { open: 'no' })).status).toBeLessThan(400);
	expect((await seen(stranger, '/signin')).html).not.toContain('href="/signup"');
});

it('shows one member what another has written, at once, and nothing more when they are no member', async () => {
	const owner = person(application.origin);
	await owner.form('/signin?/in', { email: 'mara@boathouse.example', password: 'a heron at the sluice' });
	const made = await owner.form(`/s/${tank}/tank?/invite`, { role: 'keeper' });
	const link = new URL(shownOnce(await made.text(), 'link'));
	const wenna = await signedUp(application.origin, 'Wenna', link.pathname.split('/').at(-1));
	await wenna.form(`${link.pathname}?/join`, {});
	await again(wenna, rack());
	// A name of one stands on the pages of the others.
	await owner.form('/account?/name', { name: 'Mara the Elder' });
	expect((await seen(wenna, rack())).kept).toBe(false);
	await again(wenna, rack());
	await owner.form(`/s/${tank}/tank?/about`, {
		name: 'Cellar, renamed',
		timeZone: 'Europe/Dublin',
		phase: 'settled',
		salinityPsu: '35',
		volume: 'measured',
		netVolumeL: '95'
	});
	const after = await seen(wenna, rack());
	expect([after.kept, after.html.includes('Cellar, renamed')]).toEqual([false, true]);
	await again(wenna, rack());
	const page = await (await owner.ask(`/s/${tank}/tank`)).text();
	const [, id = ''] = /Wenna[\s\S]*?name="id" value="([^"]+)"/.exec(page.slice(page.indexOf('People'))) ?? [];
	expect((await owner.form(`/s/${tank}/tank?/member`, { id, role: 'none' })).status).toBeLessThan(400);
	expect((await seen(wenna, rack())).status).toBe(404);
});

it('keeps nothing of rooms that show secrets, nor of what strangers write behind an address', async () => {
	const owner = person(application.origin);
	await owner.form('/signin?/in', { email: 'mara@boathouse.example', password: 'a heron at the sluice' });
	for (const path of ['/account', `/s/${tank}/tank`, `/s/${tank}/reminders`, '/mail'])
		for (let i = 0; i < 3; i++) expect([path, (await seen(owner, path)).kept]).toEqual([path, false]);
	const stranger = person(application.origin);
	for (let i = 0; i < 3; i++) expect((await seen(stranger, '/signin?to=/tanks')).kept).toBe(false);
});
