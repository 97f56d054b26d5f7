import { MINUTE } from '$core/base';
import { keepStored, readStored } from '$lib/client/device-storage';

const KEPT = 'tevrik.clock';
/** A server's time that seems older than this was not on its way so long: the device's clock has been set, ms. */
const LONGEST_WAY = MINUTE;
/** How far the clock has come is written down so often, ms of its own time. */
const STEP = 5000;

interface Kept {
	/** Server time less device time, ms. */
	offset: number;
	/** The server's time has come at least this far, ms. */
	reached: number;
}
let kept: Kept | undefined;
let heard = '';
/** A moment that the server's time has reached for certain, and when that was by a clock nobody sets. */
let base: { server: number; since: number } | undefined;

/** How long the server has to say which of two it is: the device slept, or its clock was set, ms. */
const ANSWER_WITHIN = 3000;
/** The device's clock less the one nobody sets, which stands still while the device sleeps. */
const gap = (): number => Date.now() - performance.now();
let usualGap: number | undefined;
let asking = false;

/** What this device learnt of the server's clock, also before its last reload. */
const known = (): Kept => (kept ??= readStored<Kept>(KEPT) ?? { offset: -Infinity, reached: -Infinity });
/** How far the server's time has come at least: it goes on while this page is awake, however the device's clock is set. */
function reached(): number {
	base ??= { server: known().reached, since: performance.now() };
	return base.server + performance.now() - base.since;
}
function learn(offset: number, server: number): void {
	base = { server, since: performance.now() };
	kept = { offset, reached: server };
	keepStored(KEPT, kept);
}

/**
 * Now by the server's clock, given the server time the page was loaded with: a phone whose clock is wrong still stamps
 * its readings right, and one that slept knows how long. What the server said is as old as its way here was long, so of
 * several answers the one that puts the time latest is nearest, and the time never runs backwards. A page that was kept for use
 * without a network tells a time that has passed long ago: what the device knew before counts. A device's clock that leaps ahead was set, or
 * the device slept: the server is asked which, and until it says so the time goes on by the clock nobody sets.
 */
export function currentTime(server: string): Date {
	if (server !== heard) {
		heard = server;
		const at = Date.parse(server);
		if (at >= reached()) take(at);
	}
	if (reached() > known().reached + STEP) {
		kept = { ...known(), reached: reached() };
		keepStored(KEPT, kept);
	}
	usualGap ??= gap();
	if (gap() - usualGap > LONGEST_WAY && typeof navigator !== 'undefined' && navigator.onLine) {
		void askWhich();
		return new Date(reached());
	}
	return new Date(Math.max(Date.now() + known().offset, reached()));
}

async function askWhich(): Promise<void> {
	if (asking) return;
	asking = true;
	try {
		const answer = await fetch('/readyz', { cache: 'no-store', signal: AbortSignal.timeout(ANSWER_WITHIN) });
		const said = Number(answer.headers.get('tevrik-now'));
		if (said) take(said);
	} catch {
		// Nobody can say: devices sleep far oftener than their clocks are set.
	} finally {
		usualGap = gap();
		asking = false;
	}
}

/**
 * The server's time as an answer straight from it says, ms since 1970: it counts whatever was known before. `asked` is when it was
 * asked, by the device's clock: an answer that was read after a sleep, or after the clock was set, tells a time long past.
 */
export function heardTime(said: string | null, asked: number): void {
	const at = Number(said);
	if (said && Number.isFinite(at) && Math.abs(Date.now() - asked) < LONGEST_WAY) take(at);
}

function take(server: number): void {
	const { offset } = known();
	const said = server - Date.now();
	if (said > offset || offset - said > LONGEST_WAY) learn(said, server);
}
