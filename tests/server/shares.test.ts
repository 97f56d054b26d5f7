import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { NOW, startApplication, type Application } from '../support/application';
import { PARAMETERS } from '../../src/core/catalogue';
import { COUPLED } from '../../src/core/trend';
import { household, measuring, shelveSoda, tankOf, until, type Tank } from '../support/load';
import { person, type Person } from '../support/person';
import { sheetForm, sheetOf } from '../support/sheet';

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
	await shelveSoda(insider);
	[ofInsider, ofOther] = (await Promise.all([insider, other].map((who) => measuring(who, NOW)))) as [
		Measure,
		Measure
	];
	for (const tank of theirs) for (let n = 1; n < 8; n++) await measured(ofInsider, tank, n, 6.9 - 0.02 * n);
});
afterAll(() => application?.stop());

type Measure = Awaited<ReturnType<typeof measuring>>;
let ofInsider: Measure;
let ofOther: Measure;
async function measured(by: Measure, tank: Tank, daysAgo: number, level: number): Promise<void> {
	const saved = await by(tank, 'alkalinity', daysAgo, level);
	expect([saved.status, saved.ok ? '' : await saved.text()]).toEqual([200, '']);
}
const plan = (tank: Tank, days: number) => `/api/v1/systems/${tank.systemId}/plan?days=${days}`;

it('plans that one asks for by the dozen are made one after another, and hold up nobody’s levels', async () => {
	// A plan for the asking has something in it.
	const alone = await insider.ask(plan(theirs[0]!, 14));
	expect([alone.status, (await alone.text()).includes('"kind":"dose"')]).toEqual([200, true]);
	let going = true;
	const statuses: Record<number, number> = {};
	const flood = Array.from({ length: 24 }, async (_, who) => {
		for (let n = 0; going; n++) {
			const answer = await insider.ask(plan(theirs[who % 3]!, 5 + ((who + 7 * n) % 35)));
			statuses[answer.status] = (statuses[answer.status] ?? 0) + 1;
			await answer.text();
			// What it rests on changes, so that it is not remembered.
			if (n % 3 === 0) await measured(ofInsider, theirs[who % 3]!, 9 + n + who / 30, 6.7);
		}
	});
	for (let round = 0; round < 6; round++) {
		const level = 8.05 + 0.1 * round;
		await measured(ofOther, hers, 6 - round, level);
		for (const room of ['rack', 'trends?of=alkalinity']) {
			const page = await other.ask(`/s/${hers.systemId}/${room}`);
			const html = await page.text();
			expect([room, page.status, html.includes('data-testid="as-of"')]).toEqual([room, 200, false]);
			// Its model is there, and was made with this test.
			expect(html).toMatch(
				room === 'rack' ? new RegExp(`tested [\\w ]+: ${level.toFixed(1)}`) : /data-testid="outlook"[^]*± 0/
			);
		}
	}
	going = false;
	await Promise.all(flood);
	expect(Object.keys(statuses).filter((s) => !['200', '429', '503'].includes(s))).toEqual([]);
	// Whoever asks for more than their share is told to come back.
	expect((statuses[429] ?? 0) + (statuses[503] ?? 0)).toBeGreaterThan(0);
});

it('a keeper who asks for more at once than is worked out sees the levels known last, said as such, and then those of now', async () => {
	const tanks = await Promise.all(Array.from({ length: 10 }, (_, n) => tankOf(insider, `Pond ${n}`)));
	// None of them is one water with another: each is a model of its own.
	const many = PARAMETERS.map((p) => p.id).filter((p) => !(COUPLED as readonly string[]).includes(p));
	// No two have the same: what is asked twice in the same words is worked out once.
	const write = (from: number) =>
		Promise.all(
			tanks.map(async ({ systemId }, n) => {
				const year = from + n;
				const sheet = sheetOf(many, 40, year);
				const answer = await insider.ask(`/api/v1/systems/${systemId}/imports`, {
					method: 'POST',
					body: sheet
				});
				if (answer.status !== 503) return expect(await answer.text()).toContain('"kind":"done"');
				await answer.text();
				await until('its turn', async () => {
					const again = await insider.ask(`/api/v1/systems/${systemId}/imports`, {
						method: 'POST',
						body: sheet
					});
					return (await again.text()).includes('"kind":"done"');
				});
			})
		);
	const rack = async ({ systemId }: Tank) => {
		const page = await insider.ask(`/s/${systemId}/rack`);
		return { status: page.status, html: await page.text() };
	};
	const isOld = ({ html }: { html: string }) => html.includes('data-testid="as-of"');
	await write(1985);
	for (const tank of tanks) expect(isOld(await rack(tank))).toBe(false);
	await write(2005);
	const pages = await Promise.all(tanks.map(rack));
	expect(pages.map((p) => p.status)).toEqual(tanks.map(() => 200));
	const old = pages.filter(isOld);
	expect(old.length).toBeGreaterThan(0);
	expect(old[0]!.html).toMatch(/Levels are from [^.]+\. Newer entries are still being computed/);
	for (const tank of tanks) expect(isOld(await rack(tank))).toBe(false);
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
