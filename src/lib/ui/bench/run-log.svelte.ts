import { v7 as uuid } from 'uuid';
import type { Happening, RunEvent } from '$core/run';
import type { Method } from '$core/instruments';
import { beginningRun, sayingInRun } from '$lib/client/commands';
import type { KnownEvent, NewRun } from '$lib/api/runs';
import { keepStored, readStored } from '$lib/client/device-storage';
import { heardTime } from '$lib/ui/clock';
import { outbox, post } from '$lib/ui/outbox.svelte';

/** What a device needs to go on with a session by itself. */
interface KeptRun {
	systemId: string;
	sourceId: string;
	events: RunEvent[];
	methods: Record<string, Method>;
}

const KEY = 'tevrik.run.';
/** An answer later than this is none, ms. */
const ANSWER_WITHIN = 10_000;
/** How often a device asks what another has done, ms. */
const ASK_EVERY = 2000;

export const keptRun = (id: string): KeptRun | undefined => readStored<KeptRun>(KEY + id);
const keep = (id: string, run: KeptRun) => keepStored(KEY + id, run);

/** Writes down the beginning of a session, here first, then on the server. */
export function beginRun(
	id: string,
	run: Omit<KeptRun, 'events'>,
	begin: Extract<RunEvent, { kind: 'begin' }>
): void {
	keep(id, { ...run, events: [begin] });
	const body: NewRun = { systemId: run.systemId, sourceId: run.sourceId, begin };
	post(beginningRun(id, body));
}

const instant = (ms: number): string => new Date(ms).toISOString();

/**
 * Everything that happened in one session, as this device knows it: what it wrote itself stands at once and survives a
 * reload; what other tabs wrote comes by the browser's storage, what other devices wrote by asking the server.
 */
export function openRunLog(id: string, first: KeptRun, known: KnownEvent[]) {
	let events = $state.raw<RunEvent[]>(first.events);
	let seq = 0;
	const take = (more: RunEvent[]) => {
		const fresh = more.filter((e) => !events.some((k) => k.id === e.id));
		if (fresh.length) events = [...events, ...fresh];
		return fresh.length > 0;
	};
	const heard = (from: KnownEvent[]) => {
		for (const k of from) seq = Math.max(seq, k.seq);
		if (take(from.map((k) => k.event))) keep(id, { ...first, events });
	};
	heard(known);

	const fromOtherTab = (event: StorageEvent) => {
		if (event.key === KEY + id) take(keptRun(id)?.events ?? []);
	};
	let asking = false;
	async function ask(): Promise<void> {
		if (asking || document.hidden) return;
		asking = true;
		try {
			const asked = Date.now();
			const response = await fetch(`/api/v1/runs/${id}/events?after=${seq}`, {
				redirect: 'manual',
				signal: AbortSignal.timeout(ANSWER_WITHIN)
			});
			const said = response.ok ? ((await response.json()) as unknown) : undefined;
			// Whoever else stands between here and the server does not answer with a list.
			if (said instanceof Array) {
				heardTime(response.headers.get('tevrik-now'), asked);
				heard(said as KnownEvent[]);
			}
		} catch {
			// Without the network this device goes on alone.
		} finally {
			asking = false;
		}
	}
	addEventListener('storage', fromOtherTab);
	const timer = setInterval(() => void ask(), ASK_EVERY);
	return {
		get events(): RunEvent[] {
			return events;
		},
		/** Writes down what happened at an instant; the server hears of it as soon as it can. */
		say(happening: Happening, at: Date): RunEvent {
			// Another tab may have written since this one last looked.
			take(keptRun(id)?.events ?? []);
			// Clocks are set now and then; what happened after something else stays after it.
			const latest = Math.max(...events.map((e) => Date.parse(e.at)));
			const when = instant(Math.max(at.getTime(), latest + 1));
			const event = { id: uuid(), at: when, ...happening } as RunEvent;
			take([event]);
			keep(id, { ...first, events });
			post(sayingInRun(id, event));
			return event;
		},
		/** How much the server does not know yet. */
		get unsent(): number {
			return outbox.waiting.filter((l) => l.path.startsWith(`/api/v1/runs/${id}`)).length;
		},
		close(): void {
			clearInterval(timer);
			removeEventListener('storage', fromOtherTab);
		}
	};
}
export type RunLog = ReturnType<typeof openRunLog>;
