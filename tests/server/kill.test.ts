import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Connection } from 'mysql2/promise';
import { expect, it } from 'vitest';
import { NOW, startApplication, type Application } from '../support/application';
import { demoCookie } from '../support/browser';
import { tries } from '../support/length';
import { databaseOf } from '../support/person';

/** How often each of the two is killed. */
const KILLS = tries(3, 20);
/** Saves that are acknowledged between two kills, at least. */
const BETWEEN = 15;

it(
	`${KILLS} hard ends of the application and as many of the database lose and tear no reading that was acknowledged`,
	{ timeout: 300_000 },
	async () => {
		const data = mkdtempSync(join(tmpdir(), 'tevrik-kill-'));
		let application: Application = await startApplication({ data });
		let db: Connection | undefined;
		const { origin } = application;
		const cookie = await demoCookie(origin);
		const json = async <T>(path: string) =>
			(await (await fetch(`${origin}/api/v1${path}`, { headers: { cookie } })).json()) as T;
		try {
			const { systems } = await json<{ systems: { id: string }[] }>('/systems');
			const { sources } = await json<{ sources: { id: string; kind: string }[] }>(
				`/systems/${systems[0]!.id}`
			);
			const { methods } = await json<{ methods: { versionId: string; profile: { id: string } }[] }>(
				'/methods'
			);
			const methodVersionId = methods.find((m) => m.profile.id === 'alk-syringe-6')!.versionId;
			const sourceId = sources.find((s) => s.kind === 'tank')!.id;

			/** One client, as fast as it can: the same letter again until it is acknowledged. */
			const acknowledged: string[] = [];
			const refused: string[] = [];
			let saving = true;
			const client = (async () => {
				for (let n = 0; saving; n++) {
					const id = crypto.randomUUID();
					const body = JSON.stringify({
						sourceId,
						sampleId: crypto.randomUUID(),
						takenAt: new Date(Date.parse(NOW) - n * 60_000).toISOString(),
						methodVersionId,
						reading: { left: 0.5 }
					});
					while (saving) {
						const answer = await fetch(`${origin}/api/v1/readings/${id}`, {
							method: 'PUT',
							headers: { 'content-type': 'application/json', cookie },
							body
						}).catch(() => undefined);
						if (answer?.ok) {
							acknowledged.push(id);
							break;
						}
						// Nothing but an error of the server or a dead network is a reason to try again.
						if (answer && answer.status < 500) refused.push(`${answer.status} ${await answer.text()}`);
						await new Promise((done) => setTimeout(done, 20));
					}
				}
			})();
			const more = async () => {
				const wanted = acknowledged.length + BETWEEN;
				while (acknowledged.length < wanted && !refused.length)
					await new Promise((done) => setTimeout(done, 5));
			};
			const port = Number(new URL(origin).port);
			for (let i = 0; i < KILLS; i++) {
				await more();
				await application.kill();
				application = await startApplication({ data, port });
			}
			const pidFile = join(data, 'mariadb', 'tevrik.pid');
			for (let i = 0; i < KILLS; i++) {
				await more();
				const pid = Number(readFileSync(pidFile, 'utf8'));
				process.kill(pid, 'SIGKILL');
				// The application starts it again by itself, under another number.
				while (!existsSync(pidFile) || Number(readFileSync(pidFile, 'utf8')) === pid)
					await new Promise((done) => setTimeout(done, 20));
			}
			await more();
			saving = false;
			await client;
			expect(refused).toEqual([]);
			db = await databaseOf(data);
			const [rows] = await db.query(
				`select r.id, count(*) as n, max(v.value) as value, max(s.id is not null) as sampled
				 from reading r join revision v on v.reading_id = r.id and v.revision = r.revision
				 left join sample s on s.id = r.sample_id where r.id in (?) group by r.id`,
				[acknowledged]
			);
			const kept = new Map(
				(rows as { id: string; n: number; value: number; sampled: number }[]).map((r) => [r.id, r])
			);
			expect(acknowledged.filter((id) => !kept.has(id))).toEqual([]);
			expect([...kept.values()].filter((r) => r.n !== 1 || !r.sampled || !(r.value > 8))).toEqual([]);
			const [torn] = await db.query(
				`select r.id from reading r left join revision v on v.reading_id = r.id and v.revision = r.revision
				 where v.reading_id is null`
			);
			expect(torn).toEqual([]);
			console.log(
				`measured: hard ends: ${acknowledged.length} readings acknowledged over ${2 * KILLS} kills`
			);
			expect(acknowledged.length).toBeGreaterThan(2 * KILLS * BETWEEN);
		} finally {
			await db?.end();
			await application.stop();
			rmSync(data, { recursive: true, force: true });
		}
	}
);
