import { DAY } from '../../src/core/base';
import { v7 as uuid } from 'uuid';
import { isKnownValue } from '../../src/core/methods';
import { signedUp, type Person } from './person';

/** What a house under load must not do, and what it acknowledged. */
export interface Tally {
	readings: string[];
	/** Steps of each session that were acknowledged. */
	steps: Map<string, string[]>;
	signIns: number;
	/** Answers that were no “later” and no yes: 500 above all. */
	wrong: string[];
	/** Acknowledged, and not there when asked for right after. */
	unread: string[];
	/** Answers that said “later”, and connections that were cut: sent again. */
	later: number;
}

const LATER = [408, 429, 502, 503, 504];
const PAUSE = 30;
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** A new tank of a person; its id. */
export async function newTank(keeper: Person, name: string): Promise<string> {
	const id = uuid();
	const made = await keeper.send('PUT', `/api/v1/systems/${id}`, {
		id,
		name,
		netVolumeL: 200,
		timeZone: 'Europe/Dublin',
		alkalinity: { lower: 7.5, upper: 9 }
	});
	if (!made.ok) throw new Error(`no tank: ${made.status} ${await made.text()}`);
	return id;
}

/** A new tank with what its letters name. */
export async function tankOf(keeper: Person, name: string) {
	const id = await newTank(keeper, name);
	const { sources } = await keeper.json<{ sources: { id: string; kind: string }[] }>(`/api/v1/systems/${id}`);
	const { methods } = await keeper.json<{ methods: { versionId: string; profile: { id: string } }[] }>(
		'/api/v1/methods'
	);
	return {
		systemId: id,
		sourceId: sources.find((s) => s.kind === 'tank')!.id,
		methodVersionId: methods.find((m) => m.profile.id === 'alk-syringe-6')!.versionId
	};
}
export type Tank = Awaited<ReturnType<typeof tankOf>>;

/**
 * A keeper's way to write values from elsewhere, by parameter, so many days before a moment: unlike readings by a template's chart they
 * count, so that models and plans rest on them.
 */
export async function measuring(
	keeper: Person,
	now: string
): Promise<(tank: Tank, parameter: string, daysAgo: number, shown: number) => Promise<Response>> {
	const { methods } = await keeper.json<{
		methods: { versionId: string; profile: { id: string; parameter: string } }[];
	}>('/api/v1/methods');
	const versions = new Map(
		methods.flatMap(({ versionId, profile }) =>
			isKnownValue(profile) ? [[profile.parameter, versionId] as const] : []
		)
	);
	return ({ sourceId }, parameter, daysAgo, shown) =>
		keeper.send('PUT', `/api/v1/readings/${uuid()}`, {
			sourceId,
			sampleId: uuid(),
			takenAt: new Date(Date.parse(now) - daysAgo * DAY).toISOString(),
			methodVersionId: versions.get(parameter),
			reading: { shown }
		});
}

/** Something to dose on a keeper's shelf: it raises alkalinity. */
export async function shelveSoda(keeper: Person): Promise<string> {
	const id = uuid();
	const profile = {
		format: 'tevrik.supplement/1',
		id,
		name: 'Soda of the mill',
		kind: 'solution',
		composition: { recipe: { salt: 'NaHCO3', gramsPerL: 80 } }
	};
	const put = await keeper.send('PUT', `/api/v1/supplements/${id}`, { profile });
	if (!put.ok) throw new Error(`no soda: ${put.status} ${await put.text()}`);
	return id;
}

/** The operator and several keepers with passwords, on a server that is new; each in a place of their own where it is told places. */
export async function household(origin: string, many: number): Promise<Person[]> {
	const keeper = (n: number) => signedUp(origin, `Keeper${n}`, { place: `10.2.${n >> 8}.${n & 255}` });
	const first = await keeper(0);
	await first.form('/mail?/signup', { open: 'yes' });
	return [first, ...(await Promise.all(Array.from({ length: many - 1 }, (_, n) => keeper(n + 1))))];
}

/**
 * Keepers who write as fast as they are answered until `stop`: readings, sessions of whose steps several devices send at once,
 * right sign-ins. Each letter goes out again, the same, until it is acknowledged, and what was acknowledged is asked for.
 */
export function load(
	keepers: { person: Person; tank: Tank }[],
	{
		devices = 3,
		signIn,
		now = Date.now
	}: { devices?: number; signIn?: (n: number) => Promise<Response>; now?: () => number } = {}
): { tally: Tally; stop: () => Promise<void> } {
	const tally: Tally = { readings: [], steps: new Map(), signIns: 0, wrong: [], unread: [], later: 0 };
	let going = true;

	interface Heard {
		status: number;
		text: string;
	}
	/** The answer that is one and came whole: yes, or a refusal that is noted. One that broke off is asked for again. */
	async function answered(what: string, ask: () => Promise<Response>): Promise<Heard | undefined> {
		while (going) {
			const heard = await ask()
				.then(async (answer): Promise<Heard> => ({ status: answer.status, text: await answer.text() }))
				.catch(() => undefined);
			if (heard && heard.status < 400) return heard;
			if (heard && !LATER.includes(heard.status)) {
				tally.wrong.push(`${what}: ${heard.status} ${heard.text.slice(0, 200)}`);
				return undefined;
			}
			tally.later++;
			await pause(PAUSE * (0.5 + Math.random()));
		}
		return undefined;
	}
	const put = (who: Person, path: string, body: unknown) =>
		answered(path.replace(/[0-9a-f-]{36}/g, '*'), () => who.send('PUT', path, body));

	async function reading({ person, tank }: (typeof keepers)[number]): Promise<void> {
		const id = uuid();
		const kept = await put(person, `/api/v1/readings/${id}`, {
			sourceId: tank.sourceId,
			sampleId: uuid(),
			takenAt: new Date(now() - Math.random() * 30 * DAY).toISOString(),
			methodVersionId: tank.methodVersionId,
			reading: { left: 0.5 }
		});
		if (!kept) return;
		tally.readings.push(id);
		const read = await answered('GET reading', () => person.ask(`/api/v1/readings/${id}`));
		if (read && (JSON.parse(read.text) as { id: string }).id !== id) tally.unread.push(id);
	}

	/** One session; its devices write into it at the same time. */
	async function run({ person, tank }: (typeof keepers)[number]): Promise<void> {
		const run = uuid();
		const steps: string[] = [];
		const begun = await put(person, `/api/v1/runs/${run}`, {
			systemId: tank.systemId,
			sourceId: tank.sourceId,
			begin: {
				id: uuid(),
				at: new Date(now()).toISOString(),
				kind: 'begin',
				tests: [{ id: 'alk', methodVersionId: tank.methodVersionId, vial: 1 }],
				people: 1,
				order: [],
				save: 'each'
			}
		});
		if (!begun) return;
		tally.steps.set(run, steps);
		const device = async () => {
			for (let n = 0; n < 8 && going; n++) {
				const id = uuid();
				const kept = await put(person, `/api/v1/runs/${run}/events/${id}`, {
					id,
					at: new Date(now()).toISOString(),
					kind: 'start',
					test: 'alk',
					step: n % 3
				});
				if (!kept) continue;
				steps.push(id);
				const all = await answered('GET events', () => person.ask(`/api/v1/runs/${run}/events?after=0`));
				if (all && !all.text.includes(id)) tally.unread.push(id);
			}
		};
		await Promise.all(Array.from({ length: devices }, device));
	}

	const forever = async (work: () => Promise<void>) => {
		while (going) await work();
	};
	const all = keepers.flatMap((keeper) => [forever(() => reading(keeper)), forever(() => run(keeper))]);
	if (signIn) {
		let n = 0;
		all.push(
			forever(async () => {
				const answer = await answered('sign in', () => signIn(n++));
				if (answer?.status === 303) tally.signIns++;
				else if (answer) tally.wrong.push(`sign in: ${answer.status} ${answer.text.slice(0, 200)}`);
			})
		);
	}
	return {
		tally,
		stop: async () => {
			going = false;
			await Promise.all(all);
		}
	};
}

/** Waits for something that comes by itself; an error once it has taken too long. */
export async function until(
	what: string,
	holds: () => boolean | Promise<boolean>,
	ms = 60_000
): Promise<void> {
	const end = Date.now() + ms;
	while (!(await holds())) {
		if (Date.now() > end) throw new Error(`${what} did not come within ${ms / 1000} s`);
		await pause(20);
	}
}
