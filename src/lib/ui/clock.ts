let loadedAt = { server: '', device: 0 };

/**
 * Now by the server's clock, given the server time the page was loaded with: a phone whose clock is wrong still stamps
 * its readings right.
 */
export function currentTime(server: string): Date {
	if (server !== loadedAt.server) loadedAt = { server, device: performance.now() };
	return new Date(Date.parse(server) + performance.now() - loadedAt.device);
}
