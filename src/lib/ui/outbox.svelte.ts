import { invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';
import type { Problem } from '$core/problems';

/** One write on its way to the server. It is kept on this device until the server has it, whatever happens between. */
export interface Letter {
	id: string;
	path: string;
	method: 'PUT' | 'DELETE';
	body: unknown;
	/** What it is, for the person who waits: "Alkalinity 8.1 ± 0.3 dKH". */
	about: string;
	/** Whose it is: a device may be handed on. */
	by?: string | undefined;
	/** The page that waits for it needs nothing new from the server when it has arrived. */
	quiet?: boolean;
	/** It was sent at least once: the server may have it even if no answer came. */
	tried?: boolean;
	/** What the server found wrong with it; it waits for a decision then. */
	problems?: Problem[];
}

const PREFIX = 'tevrik.outbox.';
/** How long to wait after a failed try, ms. */
const RETRY_AFTER = 10_000;

let letters = $state<Letter[]>([]);
let person: string | undefined;
let sending = false;
let timer: ReturnType<typeof setTimeout> | undefined;

export const outbox = {
	get waiting(): Letter[] {
		return letters;
	}
};

/** Takes up what an earlier page left unsent, and sends again when the network is back. */
export function openOutbox(of: string | undefined): () => void {
	person = of;
	letters = storedLetters();
	const again = () => void sendAll();
	addEventListener('online', again);
	void sendAll();
	return () => {
		removeEventListener('online', again);
		clearTimeout(timer);
	};
}

/** Hands a write over; it is sent at once and until it has arrived. */
export function post(letter: Letter): void {
	write({ ...letter, by: person });
	void sendAll();
}

/** Takes back a write that has not left yet. False where it has, or may have: then only the server can undo it. */
export function takeBack(id: string): boolean {
	if (!storedLetters().some((l) => l.id === id && !l.tried)) return false;
	remove(id);
	return true;
}

/** The same for whichever letter it is that has not left. */
export const unsend = (isIt: (letter: Letter) => boolean): boolean => {
	const letter = storedLetters().find(isIt);
	return letter !== undefined && takeBack(letter.id);
};

/** Gives up a write that the server has refused. */
export const drop = (id: string): void => remove(id);

async function sendAll(): Promise<void> {
	if (sending || person === undefined) return;
	sending = true;
	clearTimeout(timer);
	let arrived = false;
	try {
		for (const letter of storedLetters().filter((l) => !l.problems)) {
			// Taken back while the ones before it were on their way.
			if (!storedLetters().some((l) => l.id === letter.id)) continue;
			write({ ...letter, tried: true });
			const response = await fetch(letter.path, {
				method: letter.method,
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify(letter.body)
			});
			if (response.ok) {
				remove(letter.id);
				arrived ||= !letter.quiet;
			} else if (response.status === 401) {
				// Signed out meanwhile: it waits for the same person to sign in again.
				break;
			} else if (response.status < 500) {
				const said = (await response.json().catch(() => ({}))) as { problems?: Problem[]; detail?: string };
				write({
					...letter,
					problems: said.problems ?? [{ path: '', message: said.detail ?? 'was refused' }]
				});
			} else throw new Error(`status ${response.status}`);
		}
	} catch {
		timer = setTimeout(() => void sendAll(), RETRY_AFTER);
	} finally {
		sending = false;
	}
	// Loading anew would call off a step to another page that is under way.
	if (arrived) await navigating.complete?.catch(() => undefined);
	if (arrived) await invalidateAll();
	if (storedLetters().some((l) => !l.problems && !l.tried)) void sendAll();
}

/** One key a letter, so that two tabs do not overwrite each other's. */
function storedLetters(): Letter[] {
	return Object.keys(localStorage)
		.filter((key) => key.startsWith(PREFIX))
		.map((key) => JSON.parse(localStorage.getItem(key) ?? 'null') as Letter)
		.filter((letter) => letter && (letter.by === undefined || letter.by === person))
		.sort((a, b) => a.id.localeCompare(b.id));
}

function write(letter: Letter): void {
	localStorage.setItem(PREFIX + letter.id, JSON.stringify(letter));
	letters = storedLetters();
}

function remove(id: string): void {
	localStorage.removeItem(PREFIX + id);
	letters = storedLetters();
}
