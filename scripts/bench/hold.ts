import { MINUTE } from '../../src/core/base';
import sharp from 'sharp';
import { NOW, startApplication } from '../../tests/support/application';
import { PROBED, flood, probe } from '../../tests/support/hostile';
import { household, load, measuring, shelveSoda, tankOf } from '../../tests/support/load';
import { person, type Person } from '../../tests/support/person';
import { sheetForm } from '../../tests/support/sheet';
import type { Row } from './row';

/** How late an event loop may be while strangers do their worst, ms. */
const GOAL = 50;
/** For so long, ms, and by so many. */
const HOSTILE = 20_000;
const STRANGERS = 8;
/** So many keepers use it for so long, ms; memory is read so often. */
const KEEPERS = 20;
const USED = 10 * MINUTE;
const READ = 15_000;
/** Code and pools are loaded by then, ms. */
const SETTLED = 2 * MINUTE;
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** How late the event loop is while strangers ask for what is dear, beside the same pages without them. */
export async function underFire(): Promise<Row> {
	const application = await startApplication({
		environment: { ...PROBED, ADDRESS_HEADER: 'x-forwarded-for', TEVRIK_LOG: 'silent' }
	});
	try {
		const keeper = person(application.origin, '', '10.1.1.1');
		await keeper.form('/signin?/demo', {});
		const { systems } = await keeper.json<{ systems: { id: string }[] }>('/api/v1/systems');
		const pages = async (ms: number) => {
			let served = 0;
			for (const end = Date.now() + ms; Date.now() < end; served++)
				await (await keeper.ask(`/s/${systems[0]!.id}/rack`)).text();
			return { served, ...(await probe(application)).loopDelay };
		};
		await pages(5000);
		const calm = await pages(HOSTILE);
		const strangers = flood(application.origin, STRANGERS);
		const fire = await pages(HOSTILE);
		await strangers.stop();
		return {
			what: `event loop late while ${STRANGERS} strangers ask for dear calculations (p99)`,
			measured: `${fire.p99.toFixed(0)} ms`,
			against: `goal ${GOAL} ms; ${calm.p99.toFixed(0)} ms without them; ${fire.served} pages against ${calm.served}`
		};
	} finally {
		await application.stop();
	}
}

/** Whether memory stays what it is while twenty keepers write and read as fast as they are answered. */
export async function longUse(): Promise<Row> {
	const application = await startApplication({
		mode: 'start',
		environment: { ...PROBED, TEVRIK_LOG: 'silent' }
	});
	try {
		const keepers = await household(application.origin, KEEPERS);
		const tanks = await Promise.all(
			keepers.map(async (p, n) => ({ person: p, tank: await tankOf(p, `Tank ${n}`) }))
		);
		const { tally, stop } = load(tanks, { devices: 1, now: () => Date.parse(NOW) });
		const memory: { at: number; mb: number }[] = [];
		const from = Date.now();
		while (Date.now() - from < USED) {
			await pause(READ);
			memory.push({ at: Date.now() - from, mb: (await probe(application)).memory / 1e6 });
		}
		await stop();
		if (tally.wrong.length) throw new Error(tally.wrong[0]);
		const third = memory.filter((m) => m.at > SETTLED);
		const mean = (list: typeof memory) => list.reduce((sum, m) => sum + m.mb, 0) / list.length;
		const first = mean(third.slice(0, Math.ceil(third.length / 3)));
		const last = mean(third.slice(-Math.ceil(third.length / 3)));
		return {
			what: `memory, ${KEEPERS} keepers for ${USED / MINUTE} minutes`,
			measured: `${last.toFixed(0)} MB`,
			against: `${(last / first).toFixed(2)} of what it was after two (${first.toFixed(0)} MB); ${tally.readings.length + [...tally.steps.values()].flat().length} writes`
		};
	} finally {
		await application.stop();
	}
}

/** What one keeper asks for at once, and how many pages of another are measured meanwhile. */
const AT_ONCE = 40;
const PAGES = 120;
/** Lines of a long sheet: a year of one test every ten minutes. */
const LONG_SHEET = 50_000;

/** How late another's pages are (p99) while somebody who is signed in asks for all that is dear, beside the same pages without them. */
export async function insiders(): Promise<Row[]> {
	const application = await startApplication({ mode: 'start', environment: { TEVRIK_LOG: 'silent' } });
	try {
		const [insider, other] = (await household(application.origin, 2)) as [Person, Person];
		const [theirs, hers] = await Promise.all([tankOf(insider, 'Theirs'), tankOf(other, 'Hers')]);
		await shelveSoda(insider);
		const [ofInsider, ofOther] = await Promise.all([insider, other].map((who) => measuring(who, NOW)));
		/** A test of alkalinity that counts; its id. */
		const read = async (by: typeof ofInsider, tank: typeof hers, daysAgo: number): Promise<string> => {
			const saved = await by!(tank, 'alkalinity', daysAgo, 6.6 + 0.05 * (daysAgo % 7));
			if (!saved.ok) throw new Error(`no reading: ${saved.status}`);
			return ((await saved.json()) as { id: string }).id;
		};
		for (let n = 1; n < 20; n++) await Promise.all([read(ofInsider, theirs, n), read(ofOther, hers, n)]);
		const evidence = await read(ofInsider, theirs, 0);
		/** A page after a write: its model is made anew. */
		const p99 = async () => {
			const times: number[] = [];
			for (let n = 0; n < PAGES; n++) {
				if (n % 10 === 0) await read(ofOther, hers, 20 + n);
				const from = performance.now();
				const page = await other.ask(`/s/${hers.systemId}/rack`);
				await page.text();
				if (!page.ok) throw new Error(`a page answered ${page.status}`);
				times.push(performance.now() - from);
			}
			return times.sort((a, b) => a - b)[Math.floor(0.99 * PAGES)] ?? NaN;
		};
		await p99();
		const bomb = await sharp({ create: { width: 1990, height: 1990, channels: 4, background: '#fff8' } })
			.png({ progressive: true, compressionLevel: 9 })
			.toBuffer();
		const picture = { readingId: evidence, at: NOW, picture: bomb.toString('base64') };
		const dear: [string, () => Promise<Response>[]][] = [
			[
				`${AT_ONCE} plans`,
				() =>
					Array.from({ length: AT_ONCE }, (_, n) =>
						insider.ask(`/api/v1/systems/${theirs.systemId}/plan?days=${2 + (n % 38)}`)
					)
			],
			[
				`${AT_ONCE} pictures that are made to take long`,
				() =>
					Array.from({ length: AT_ONCE }, () =>
						insider.send('PUT', `/api/v1/photos/${crypto.randomUUID()}`, picture)
					)
			],
			[
				`a sheet of ${LONG_SHEET} lines`,
				() => [
					insider.ask(`/api/v1/systems/${theirs.systemId}/imports`, {
						method: 'POST',
						body: sheetForm(LONG_SHEET, 2019)
					})
				]
			]
		];
		const rows: Row[] = [];
		for (const [what, ask] of dear) {
			const quiet = await p99();
			const asked = ask().map((answer) => answer.then((a) => a.text()));
			const beside = await p99();
			await Promise.all(asked);
			rows.push({
				what: `another’s pages (p99) beside ${what}`,
				measured: `${(beside / quiet).toFixed(2)} times as long`,
				against: `goal 2; ${quiet.toFixed(0)} ms quiet, ${beside.toFixed(0)} ms beside it`
			});
		}
		return rows;
	} finally {
		await application.stop();
	}
}

/** People at once, how long each looks at what they have, ms, and for how long, ms. */
const PEOPLE = 50;
const LOOKS = 3000;
const CLUB = Number(process.env['TEVRIK_CLUB_MS'] ?? 10 * MINUTE);

/** How long an answer takes (p99) while fifty people use one server as people do: a page, a look, now and then a test. */
export async function aClub(): Promise<Row> {
	const application = await startApplication({
		mode: 'start',
		environment: { ADDRESS_HEADER: 'x-forwarded-for', TEVRIK_LOG: 'silent' }
	});
	try {
		const people = await household(application.origin, PEOPLE);
		const tanks = await Promise.all(people.map((p, n) => tankOf(p, `Tank ${n}`)));
		const measure = await Promise.all(people.map((p) => measuring(p, NOW)));
		const times: number[] = [];
		const wrong: string[] = [];
		const until = Date.now() + CLUB;
		await Promise.all(
			people.map(async (who, n) => {
				const { systemId } = tanks[n]!;
				for (let step = n; Date.now() < until; step++) {
					await pause(LOOKS * (0.5 + Math.random()));
					const from = performance.now();
					const answer =
						step % 5 === 0
							? await measure[n]!(tanks[n]!, 'alkalinity', (step % 60) / 2, 7.8 + 0.02 * (step % 20))
							: await who.ask(`/s/${systemId}/${['rack', 'readings', 'trends', 'bench'][step % 4]!}`);
					await answer.text();
					times.push(performance.now() - from);
					if (!answer.ok) wrong.push(`${answer.status}`);
				}
			})
		);
		if (wrong.length)
			throw new Error(`${wrong.length} answers were not right: ${wrong.slice(0, 5).join(', ')}`);
		times.sort((a, b) => a - b);
		const at = (share: number) => (times[Math.floor(share * times.length)] ?? NaN).toFixed(0);
		return {
			what: `answers to ${PEOPLE} people for ${(CLUB / MINUTE).toFixed(0)} minutes (p99)`,
			measured: `${at(0.99)} ms`,
			against: `goal 1000 ms; half within ${at(0.5)} ms; ${times.length} answers, none wrong`
		};
	} finally {
		await application.stop();
	}
}
