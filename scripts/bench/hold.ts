import { NOW, startApplication } from '../../tests/support/application';
import { PROBED, flood, probe } from '../../tests/support/hostile';
import { household, load, tankOf } from '../../tests/support/load';
import { person } from '../../tests/support/person';
import type { Row } from './row';

/** How late an event loop may be while strangers do their worst, ms. */
const GOAL = 50;
/** For so long, ms, and by so many. */
const HOSTILE = 20_000;
const STRANGERS = 8;
/** So many keepers use it for so long, ms; memory is read so often. */
const KEEPERS = 20;
const USED = 10 * 60_000;
const READ = 15_000;
/** Code and pools are loaded by then, ms. */
const SETTLED = 2 * 60_000;
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
			what: `memory, ${KEEPERS} keepers for ${USED / 60_000} minutes`,
			measured: `${last.toFixed(0)} MB`,
			against: `${(last / first).toFixed(2)} of what it was after two (${first.toFixed(0)} MB); ${tally.readings.length + [...tally.steps.values()].flat().length} writes`
		};
	} finally {
		await application.stop();
	}
}
