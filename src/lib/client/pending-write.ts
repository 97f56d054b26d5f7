import type { Problem } from '../../core/base';

/** One write on its way to the server. It is kept on this device until the server has it, whatever happens between. */
export interface PendingWrite {
	id: string;
	path: string;
	method: 'PUT' | 'DELETE';
	body: unknown;
	/** The picture that belongs into its body lies on this device under this key (`pictures.ts`). */
	picture?: string;
	/** What it is, for the person who waits: "Alkalinity 8.1 ± 0.3 dKH". */
	about: string;
	/** In which order this device wrote: clocks are set now and then. */
	seq?: number;
	/** Whose it is: a device may be handed on. */
	by?: string | undefined;
	/** The page that waits for it needs nothing new from the server when it has arrived. */
	quiet?: boolean;
	/** It was sent at least once: the server may have it even if no answer came. */
	tried?: boolean;
	/** What the server found wrong with it; it waits for a decision then. */
	problems?: Problem[];
}

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;
type Body = { runId?: string; systemId?: string; readingId?: string } | null;

/** The id that the server's answer carries when it has this write: of what it is about, which stands last in its address. */
export const expectedId = (write: PendingWrite): string | undefined =>
	write.path.match(UUID)?.at(-1) ?? (write.body as Body)?.systemId;

/** What a write belongs to: those of one thing go out one after the other, a reading after the steps of its run, a picture after its reading. */
export function lanesOf(write: PendingWrite): string[] {
	const { runId, readingId } = (write.body as Body) ?? {};
	const behind = [runId, readingId].filter((id) => id !== undefined);
	return [write.path.match(UUID)?.[0] ?? write.path, ...behind];
}

/** Writes that mean nothing without this one: the pictures of a reading. */
export const hangingOn = (write: PendingWrite, writes: PendingWrite[]): PendingWrite[] =>
	writes.filter((w) => ((w.body as Body)?.readingId ?? '') === write.path.match(UUID)?.[0]);

/** In the order in which they were written; what an older page left has no number and comes first. */
export const inOrder = (a: PendingWrite, b: PendingWrite): number =>
	(a.seq ?? 0) - (b.seq ?? 0) || a.id.localeCompare(b.id);

/** Writes that may go now: refused ones wait for their keeper and hold up nobody, the others go behind those before them. */
export function sendable(writes: PendingWrite[], held: ReadonlySet<string>): PendingWrite | undefined {
	const taken = new Set(held);
	const waiting = new Set(writes.flatMap((w) => (w.problems ? hangingOn(w, writes) : [])));
	for (const write of [...writes].sort(inOrder)) {
		if (write.problems) continue;
		// A picture has nothing to stand beside until its reading is put right.
		if (waiting.has(write)) continue;
		const lanes = lanesOf(write);
		if (!lanes.some((lane) => taken.has(lane))) return write;
		lanes.forEach((lane) => taken.add(lane));
	}
	return undefined;
}

/**
 * How a send ended. `has`: the server has it. `refused`: for good, with what is wrong. `sign in`: it waits for its person.
 * `later`: this one did not go now; `away`: nobody is there to take any.
 */
export type Ended =
	{ kind: 'has' | 'sign in' | 'later' | 'away'; after?: number } | { kind: 'refused'; problems: Problem[] };

/** Only what the server itself says counts: between here and there stand hotels, proxies and captive portals. */
export async function understood(write: PendingWrite, response: Response): Promise<Ended> {
	const type = response.headers.get('content-type') ?? '';
	const ours = /^application\/(?:problem\+)?json\b/.test(type);
	const said = (ours ? await response.json().catch(() => null) : null) as
		| (Record<string, unknown> & { id?: string; status?: number; detail?: string; problems?: Problem[] })
		| null;
	const { status } = response;
	if (!said || response.redirected) return { kind: 'away' };
	if (response.ok)
		return said.id !== undefined && said.id === expectedId(write) ? { kind: 'has' } : { kind: 'away' };
	const seconds = Number(response.headers.get('retry-after'));
	const after = seconds > 0 ? { after: seconds * 1000 } : {};
	if (status === 503) return { kind: 'away', ...after };
	// Problem details name their own status: a refusal that does not is somebody else's.
	if (said.status !== status) return { kind: 'away' };
	if (status === 401) return { kind: 'sign in' };
	// Too many of one kind, such as pictures, hold up no reading.
	if (status >= 500 || status === 408 || status === 413 || status === 429) return { kind: 'later', ...after };
	return {
		kind: 'refused',
		problems: said.problems?.length ? said.problems : [{ path: '', message: said.detail ?? 'was refused' }]
	};
}

/** What stands at a place of a write's body that a problem names. */
export const valueAt = (body: unknown, path: string): unknown =>
	path
		.split('/')
		.slice(1)
		.reduce<unknown>((at, key) => (at as Record<string, unknown> | null | undefined)?.[key], body);

/** The same body with another value there. */
export function withValueAt<T>(body: T, path: string, value: unknown): T {
	const copy = structuredClone(body);
	const keys = path.split('/').slice(1);
	const last = keys.pop();
	const parent = keys.reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], copy);
	if (last !== undefined && parent && typeof parent === 'object')
		(parent as Record<string, unknown>)[last] = value;
	return copy;
}
