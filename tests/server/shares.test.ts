import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startApplication, type Application } from '../support/application';
import { household, tankOf, type Tank } from '../support/load';
import { person, type Person } from '../support/person';
import { sheetForm } from '../support/sheet';

/** Two keepers of one server: what one asks for is dear, and the other notices nothing of it. */
let application: Application;
let insider: Person;
let other: Person;
let theirs: Tank[];
let hers: Tank;
beforeAll(async () => {
	application = await startApplication({ mode: 'start', environment: { TEVRIK_LOG: 'info' } });
	[insider, other] = (await household(application.origin, 2)) as [Person, Person];
	theirs = await Promise.all(['One', 'Two', 'Three'].map((name) => tankOf(insider, name)));
	hers = await tankOf(other, 'Cellar');
	for (const tank of theirs)
		for (let n = 0; n < 6; n++) expect((await read(insider, tank, n)).status).toBe(200);
});
afterAll(() => application?.stop());

/** A reading of alkalinity, so many days ago. */
const read = (who: Person, { sourceId, methodVersionId }: Tank, daysAgo: number, left = 0.5) =>
	who.send('PUT', `/api/v1/readings/${crypto.randomUUID()}`, {
		sourceId,
		sampleId: crypto.randomUUID(),
		takenAt: new Date(Date.parse('2026-05-06T20:00:00Z') - daysAgo * 86_400_000).toISOString(),
		methodVersionId,
		sampleSize: 'full',
		reading: { left }
	});
const plan = (tank: Tank, days: number) => `/api/v1/systems/${tank.systemId}/plan?days=${days}`;

it('plans that one asks for by the dozen are made one after another, and hold up nobody’s levels', async () => {
	let going = true;
	const statuses: Record<number, number> = {};
	const flood = Array.from({ length: 24 }, async (_, who) => {
		for (let n = 0; going; n++) {
			const answer = await insider.ask(plan(theirs[who % 3]!, 5 + ((who + 7 * n) % 35)));
			statuses[answer.status] = (statuses[answer.status] ?? 0) + 1;
			await answer.text();
			// Every answer stands for a model that was asked for anew.
			if (n % 3 === 0) await read(insider, theirs[who % 3]!, 7 + n);
		}
	});
	for (let round = 0; round < 6; round++) {
		const left = 0.4 + 0.02 * round;
		expect((await read(other, hers, 20 - round, left)).status).toBe(200);
		for (const room of ['rack', 'trends?of=alkalinity']) {
			const page = await other.ask(`/s/${hers.systemId}/${room}`);
			const html = await page.text();
			expect([room, page.status, html.includes('data-testid="as-of"')]).toEqual([room, 200, false]);
		}
	}
	going = false;
	await Promise.all(flood);
	expect(Object.keys(statuses).filter((s) => !['200', '429', '503'].includes(s))).toEqual([]);
	// Whoever asks for more than a minute's worth is told when to come back.
	expect(statuses[200]).toBeGreaterThan(0);
});

it('pictures that are made to take long are opened one after another, elsewhere, and whoever opens them may die', async () => {
	const reading = crypto.randomUUID();
	const { sourceId, methodVersionId } = theirs[0]!;
	const at = '2026-05-06T20:00:00Z';
	await insider.send('PUT', `/api/v1/readings/${reading}`, {
		sourceId,
		sampleId: crypto.randomUUID(),
		takenAt: at,
		methodVersionId,
		sampleSize: 'full',
		reading: { left: 0.5 }
	});
	const { width, height } = { width: 1990, height: 1990 };
	const bomb = await sharp({ create: { width, height, channels: 4, background: '#fff8' } })
		.png({ progressive: true, compressionLevel: 9 })
		.toBuffer();
	const send = (picture: Buffer) =>
		insider.send('PUT', `/api/v1/photos/${crypto.randomUUID()}`, {
			readingId: reading,
			at,
			picture: picture.toString('base64')
		});
	const opener = () => {
		const { pid } = application;
		const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ');
		return children
			.map(Number)
			.find((c) => readFileSync(`/proc/${c}/cmdline`, 'utf8').includes('picture-process'));
	};
	expect((await send(bomb)).status).toBe(200);
	const first = opener()!;
	const sent = Promise.all(Array.from({ length: 30 }, () => send(bomb)));
	process.kill(first, 'SIGKILL');
	for (let n = 0; n < 5; n++) {
		// Signing in takes a thread of the same few that compress and decode.
		const page = await other.ask(`/s/${hers.systemId}/rack`);
		const wrong = await person(application.origin).form('/signin?/in', {
			email: 'nobody@x.example',
			password: 'five brown eels'
		});
		expect([page.status, wrong.status]).toEqual([200, 422]);
	}
	const statuses = (await sent).map((a) => a.status);
	expect(statuses.filter((s) => ![200, 422, 503].includes(s))).toEqual([]);
	// That of the process that died is refused; of the others so many wait as may, and the rest is asked to come again.
	expect(statuses.filter((s) => s === 422).length).toBeLessThanOrEqual(1);
	expect(statuses.filter((s) => s === 200).length).toBeGreaterThan(5);
	expect(statuses.filter((s) => s === 503).length).toBeGreaterThan(5);
	expect(opener()).not.toBe(first);
	const huge = await sharp({ create: { width: 4000, height: 4000, channels: 3, background: 'white' } })
		.png({ progressive: true })
		.toBuffer();
	const refused = await send(huge);
	expect([refused.status, await refused.text()]).toEqual([
		422,
		expect.stringContaining('at most 4 million pixels')
	]);
});

it('what somebody asked for and left before it was begun is not computed', async () => {
	const sheet = (rows: number, n: number) => sheetForm(rows, 2001 + n);
	const address = `/api/v1/systems/${hers.systemId}/imports`;
	// Its answer has begun: it runs, and has the thread for a while.
	const first = await other.ask(address, { method: 'POST', body: sheet(8000, 0) });
	const left = new AbortController();
	const others = [1, 2, 3].map((n) =>
		other.ask(address, { method: 'POST', body: sheet(500, n), signal: left.signal }).catch(() => undefined)
	);
	for (let n = 0; n < 5; n++) await other.ask(`/s/${hers.systemId}/rack`);
	left.abort();
	await Promise.all(others);
	expect(await first.text()).toContain('"kind":"done"');
	const after = await other.ask(address, { method: 'POST', body: sheet(500, 4) });
	expect(await after.text()).toContain('"kind":"done"');
	const { imports } = await other.json<{ imports: { id: string; name: string }[] }>(address);
	expect(imports.map((i) => i.name).sort()).toEqual(['book of 2001', 'book of 2005']);
	// Whoever was cut off asks what came of it.
	const asked = (id: string) => other.ask(`${address}/${id}`);
	expect((await asked(imports[0]!.id)).status).toBe(200);
	expect(await (await asked(crypto.randomUUID())).text()).toContain('Nothing of this file was kept');
	expect(application.said()).toContain('nobody waits for this');
});
