import { MINUTE } from '../../core/base';
import { readFileSync } from 'node:fs';

/** A phone's clock may run ahead of the server's by this much, ms. */
export const CLOCK_SLACK = 10 * MINUTE;

/**
 * The server's time. `TEVRIK_NOW` holds it still for tests and pictures; `TEVRIK_NOW=file:PATH` reads it from a file each
 * time, for tests in which hours pass.
 */
export function now(): Date {
	const fixed = process.env['TEVRIK_NOW'];
	if (!fixed) return new Date();
	const text = fixed.startsWith('file:') ? readFileSync(fixed.slice('file:'.length), 'utf8').trim() : fixed;
	const at = new Date(text);
	if (Number.isNaN(at.getTime()))
		throw new Error(`TEVRIK_NOW is not a date: “${text}”; write 2026-05-01T19:30:00Z`);
	return at;
}
