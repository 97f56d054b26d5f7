/** Server time less device time, ms. */
let offset = -Infinity;
let heard = '';

/** A server's time that seems older than this was not on its way so long: the device's clock has been set, ms. */
const LONGEST_WAY = 60_000;

/**
 * Now by the server's clock, given the server time the page was loaded with: a phone whose clock is wrong still stamps
 * its readings right, and one that slept knows how long. What the server said is as old as its way here was long, so of
 * several answers the one that puts the time latest is nearest, and the time never runs backwards.
 */
export function currentTime(server: string): Date {
	if (server !== heard) {
		heard = server;
		const said = Date.parse(server) - Date.now();
		if (said > offset || offset - said > LONGEST_WAY) offset = said;
	}
	return new Date(Date.now() + offset);
}
