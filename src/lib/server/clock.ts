/** The server's time; `TEVRIK_NOW` holds it still for tests and pictures. */
export function now(): Date {
	const fixed = process.env['TEVRIK_NOW'];
	if (!fixed) return new Date();
	const at = new Date(fixed);
	if (Number.isNaN(at.getTime()))
		throw new Error(`TEVRIK_NOW is not a date: “${fixed}”; write 2026-05-01T19:30:00Z`);
	return at;
}
