import { afterAll, beforeAll, expect, it } from 'vitest';
import { startApplication, type Application } from '../support/application';
import { household, tankOf, until, type Tank } from '../support/load';
import type { Person } from '../support/person';
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
	const { imports } = await other.json<{ imports: { name: string }[] }>(address);
	expect(imports.map((i) => i.name).sort()).toEqual(['book of 2001', 'book of 2005']);
	expect(application.said()).toContain('nobody waits for this');
});
