import { expect, it } from 'vitest';
import { momentIn, momentOf } from './moment';

const zone = 'Europe/Dublin';
const morning = new Date('2026-05-06T07:30:00Z');

it('a day without an hour was at noon, and today before noon by now', () => {
	expect(momentOf({ day: { ago: 1 } }, zone, morning)).toBe('2026-05-05T11:00:00.000Z');
	expect(momentOf({ day: { on: '2026-05-06' } }, zone, morning)).toBe('2026-05-06T07:30:00.000Z');
	expect(momentOf({ day: { on: '2026-05-07' } }, zone, morning)).toBeNull();
	expect(momentOf({ day: { ago: 0 }, hour: '9:15' }, zone, morning)).toBeNull();
	expect(momentOf({ day: { ago: 0 }, hour: '7:15' }, zone, morning)).toBe('2026-05-06T06:15:00.000Z');
});
it('an hour that comes twice, or never, on the night the clocks change, is a moment all the same', () => {
	const later = new Date('2026-12-01T12:00:00Z');
	expect(momentIn('2026-10-25T01:30', zone, later)).toBe('2026-10-25T00:30:00.000Z');
	expect(momentIn('2026-03-29T01:30', zone, later)).toBe('2026-03-29T01:30:00.000Z');
	expect(momentIn('nonsense', zone, later)).toBeNull();
});
