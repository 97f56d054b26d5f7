import { invalidateAll } from '$app/navigation';
import { navigating, page } from '$app/state';
import { keepStored, keysOf, onStorageTrouble, readStored, storageTrouble } from '$lib/client/device-storage';
import { hangingOn, inOrder, type PendingWrite } from '$lib/client/pending-write';
import { pageIsOf } from '$lib/client/person';
import { keepPicture, readPicture, sweepPictures } from '$lib/client/pictures';
import { photosReferred, setPhotosApart } from '$lib/client/photo-drafts';
import { openSender, type Sender, type SenderState } from '$lib/client/sender';
import { heardTime } from '$lib/ui/clock';

export type { PendingWrite } from '$lib/client/pending-write';

const PREFIX = 'tevrik.outbox.';
/** How many this device has written: it outlives what was sent. */
const COUNT = 'tevrik.written';
/** One tab of a browser sends for all. */
const LOCK = 'tevrik.outbox';

let writes = $state.raw<PendingWrite[]>([]);
let sender: Sender | undefined;
let senderState = $state<SenderState>('idle');
let trouble = $state.raw({ unstored: 0, broken: 0 });
let person: string | undefined;

/** What this device has written and the server does not have yet. */
export const outbox = {
	get waiting(): PendingWrite[] {
		return writes;
	},
	get state(): SenderState {
		return senderState;
	},
	/** What does not fit on this device, or could not be read there. */
	get trouble() {
		return trouble;
	}
};

/** One key a write, so that two tabs do not overwrite each other's. */
const stored = (): PendingWrite[] =>
	keysOf(PREFIX)
		.flatMap((key) => readStored<PendingWrite>(key) ?? [])
		.filter((write) => typeof write.path === 'string' && (write.by === undefined || write.by === person))
		.sort(inOrder);
const look = () => {
	writes = stored();
	trouble = storageTrouble();
};
function keep(write: PendingWrite): void {
	keepStored(PREFIX + write.id, write);
	look();
}
function remove(id: string): void {
	keepStored(PREFIX + id, undefined);
	look();
}

/** Where the page is not safe from being replaced by one that failed to load: a session at the bench goes on by itself. */
const mayRefresh = (): boolean => !page.url.searchParams.has('run');

async function refresh(): Promise<void> {
	// Loading anew would call off a step to another page that is under way.
	await navigating.complete?.catch(() => undefined);
	if (mayRefresh()) await invalidateAll();
}

/** Older pages kept pictures within what waits: they are set apart. */
async function setApart(): Promise<void> {
	await setPhotosApart();
	for (const write of stored()) {
		const { picture, ...body } = (write.body ?? {}) as { picture?: unknown };
		if (write.picture !== undefined || typeof picture !== 'string') continue;
		const key = write.id;
		await keepPicture(key, picture);
		// It may have been sent meanwhile, by another tab.
		if (stored().some((w) => w.id === write.id)) keep({ ...write, body, picture: key });
	}
}
/** Keys of all pictures that are still needed on this device, whoever's they are. */
const picturesReferred = (): Set<string> =>
	new Set([
		...photosReferred(),
		...keysOf(PREFIX).flatMap((key) => readStored<PendingWrite>(key)?.picture ?? [])
	]);

/** Takes up what an earlier page left unsent, and sends again when the network is back or the page is looked at. */
export function openOutbox(of: string | undefined): () => void {
	person = of;
	pageIsOf(of);
	look();
	if (of === undefined) return () => undefined;
	const mine = openSender({
		waiting: stored,
		keep,
		remove,
		picture: readPicture,
		fetch: (...asked) => fetch(...asked),
		random: Math.random,
		// Where the browser has no locks two tabs may both send: the server keeps one.
		alone: (work) => (navigator.locks ? navigator.locks.request(LOCK, work) : work()),
		onarrived: () => void refresh(),
		onstate: (state) => (senderState = state),
		onanswer: (response, asked) => heardTime(response.headers.get('tevrik-now'), asked)
	});
	sender = mine;
	const again = () => mine.retry();
	const seen = () => document.visibilityState === 'visible' && writes.length > 0 && mine.retry();
	// Another tab wrote or sent something.
	const elsewhere = (event: StorageEvent) => {
		if (event.key !== null && !event.key.startsWith(PREFIX)) return;
		look();
		mine.wake();
	};
	addEventListener('online', again);
	addEventListener('storage', elsewhere);
	document.addEventListener('visibilitychange', seen);
	const off = onStorageTrouble(() => (trouble = storageTrouble()));
	void setApart().then(() => {
		mine.retry();
		return sweepPictures(picturesReferred);
	});
	return () => {
		mine.close();
		off();
		removeEventListener('online', again);
		removeEventListener('storage', elsewhere);
		document.removeEventListener('visibilitychange', seen);
	};
}

/** Hands a write over; it is sent at once and until it has arrived. */
export function post(write: PendingWrite): void {
	const seq = (readStored<number>(COUNT) ?? 0) + 1;
	keepStored(COUNT, seq);
	keep({ ...write, seq, by: person });
	sender?.wake();
}

/** Takes back a write that has not left yet. False where it has, or may have: then only the server can undo it. */
export function takeBack(id: string): boolean {
	if (!stored().some((w) => w.id === id && !w.tried)) return false;
	drop(id);
	return true;
}

/** The same for whichever write it is that has not left. */
export const unsend = (isIt: (write: PendingWrite) => boolean): boolean => {
	const write = stored().find(isIt);
	return write !== undefined && takeBack(write.id);
};

/** Gives up a write that the server has refused, and what means nothing without it. */
export function drop(id: string): void {
	const all = stored();
	const write = all.find((w) => w.id === id);
	for (const hanging of write ? hangingOn(write, all) : []) remove(hanging.id);
	remove(id);
}

/** Sends what was refused once more, as it is or put right. */
export function sendAgain(write: PendingWrite, body: unknown = write.body): void {
	const { problems: _problems, ...rest } = write;
	keep({ ...rest, body });
	sender?.retry();
}
