import { MINUTE } from '../../core/base';
import { named } from './person';
import { lanesOf, sendable, understood, type Ended, type PendingWrite } from './pending-write';

/** A send without an answer ends after this, ms. */
const ANSWER_WITHIN = 20_000;
/** The first pause after a failure, ms; each further one is twice as long, up to the longest. */
const FIRST_PAUSE = 1000;
const LONGEST_PAUSE = 5 * MINUTE;
/** Waiting for a person to sign in, or for a server that refuses one write only, ms. */
const PATIENT_PAUSE = MINUTE;
const GONE = 'This device no longer has the picture.';

interface SenderParts {
	/** All that waits for this person, as it stands now. */
	waiting: () => PendingWrite[];
	/** Keeps what was learnt of a write. */
	keep: (write: PendingWrite) => void;
	remove: (id: string) => void;
	/** The picture that lies on this device under a key. */
	picture: (key: string) => Promise<string | undefined>;
	fetch: typeof fetch;
	/** A number from 0 to 1, by chance: devices that lost the network together do not all come back at once. */
	random: () => number;
	/** Runs work while no other tab of this browser does the same. */
	alone: (work: () => Promise<void>) => Promise<void>;
	/** Something has arrived that the page may show. */
	onarrived: () => void;
	/** What the sender waits for. */
	onstate: (state: SenderState) => void;
	/** Every answer of the server brings its time; `asked` is when it was asked, ms by this device's clock. */
	onanswer?: (response: Response, asked: number) => void;
}
export type SenderState = 'idle' | 'sending' | 'away' | 'sign in';

/** What a write says, with the picture that lies apart from it; nothing where that is gone. */
async function whole(
	{ body, picture }: PendingWrite,
	pictureAt: SenderParts['picture']
): Promise<{ body: unknown } | undefined> {
	if (picture === undefined) return { body };
	const itself = await pictureAt(picture);
	return itself === undefined ? undefined : { body: { ...(body as object), picture: itself } };
}

/** Sends one write once, and says how that ended. */
async function send(write: PendingWrite, parts: SenderParts): Promise<Ended> {
	const sent = await whole(write, parts.picture);
	if (!sent) return { kind: 'refused', problems: [{ path: '', message: GONE }] };
	parts.keep({ ...write, tried: true });
	const end = new AbortController();
	const tooLate = setTimeout(() => end.abort(), ANSWER_WITHIN);
	const asked = Date.now();
	try {
		const response = await parts.fetch(write.path, {
			method: write.method,
			headers: { 'content-type': 'application/json', accept: 'application/json', ...named(write.by) },
			body: JSON.stringify(sent.body),
			redirect: 'manual',
			cache: 'no-store',
			signal: end.signal
		});
		parts.onanswer?.(response, asked);
		return await understood(write, response);
	} catch {
		return { kind: 'away' };
	} finally {
		clearTimeout(tooLate);
	}
}

/** Sends what waits, one after the other, until the server has it: with growing pauses while nobody answers. */
export function openSender(parts: SenderParts) {
	let failures = 0;
	let timer: ReturnType<typeof setTimeout> | undefined;
	let closed = false;
	let running: Promise<void> | undefined;
	/** Asked again while a round was under way: another follows it. */
	let asked = false;

	/** One round: everything that can go now. How long until the next, ms; nothing where none is needed. */
	async function round(): Promise<number | undefined> {
		const held = new Set<string>();
		let arrived = false;
		let pause: number | undefined;
		try {
			for (;;) {
				const write = closed ? undefined : sendable(parts.waiting(), held);
				if (!write) break;
				parts.onstate('sending');
				const ended = await send(write, parts);
				if (ended.kind === 'has') {
					parts.remove(write.id);
					failures = 0;
					arrived ||= !write.quiet;
				} else if (ended.kind === 'refused') {
					// It may have been taken back meanwhile.
					if (parts.waiting().some((w) => w.id === write.id))
						parts.keep({ ...write, tried: true, problems: ended.problems });
				} else if (ended.kind === 'later') {
					// It and what follows it wait; the others go on.
					for (const lane of lanesOf(write)) held.add(lane);
					pause = Math.max(pause ?? 0, ended.after ?? PATIENT_PAUSE);
				} else if (ended.kind === 'sign in') {
					parts.onstate('sign in');
					return PATIENT_PAUSE;
				} else {
					const grown = Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** failures++);
					parts.onstate('away');
					return Math.max(ended.after ?? 0, grown * (0.5 + parts.random()));
				}
			}
			parts.onstate(pause === undefined ? 'idle' : 'away');
			return pause;
		} finally {
			if (arrived) parts.onarrived();
		}
	}

	async function run(): Promise<void> {
		clearTimeout(timer);
		timer = undefined;
		let pause: number | undefined;
		do {
			asked = false;
			await parts.alone(async () => {
				pause = await round();
			});
			// While nobody answers, asking again changes nothing: the pause is kept.
		} while (asked && pause === undefined && !closed);
		if (pause !== undefined && !closed) timer = setTimeout(start, pause);
	}
	function start(): void {
		if (closed) return;
		asked = true;
		running ??= run().finally(() => (running = undefined));
	}

	return {
		/** Something new waits: it goes out now, unless the server is known to be away. */
		wake(): void {
			if (failures === 0 || (timer === undefined && !running)) start();
		},
		/** The network is back, or the page: no pause any more. */
		retry(): void {
			failures = 0;
			start();
		},
		close(): void {
			closed = true;
			clearTimeout(timer);
		}
	};
}
export type Sender = ReturnType<typeof openSender>;
