import { expect, it } from 'vitest';
import { OPERATIONS } from '../api/operations';
import * as commands from './commands';
import { expectedId, lanesOf, type PendingWrite } from './pending-write';

const id = '0198f000-0000-7000-8000-000000000001';
const other = '0198f000-0000-7000-8000-000000000002';
const body = { systemId: other } as never;
const WRITES: [string, PendingWrite][] = [
	['savingReading', commands.savingReading(id, body, 'a')],
	['correctingReading', commands.correctingReading(id, body, 'a')],
	['savingEvent', commands.savingEvent(id, body, 'a')],
	['voiding a reading', commands.voiding('readings', id, 'why', 'a')],
	['voiding an event', commands.voiding('events', id, 'why', 'a')],
	['restoring a reading', commands.restoring('readings', id, 'a')],
	['restoring an event', commands.restoring('events', id, 'a')],
	['voidingReadings', commands.voidingReadings(body, 'a')],
	['beginningRun', commands.beginningRun(id, body)],
	['sayingInRun', commands.sayingInRun(other, { id, kind: 'finish' } as never)],
	['followingPlan', commands.followingPlan(id, body)],
	['tickingOff', commands.tickingOff(id, 3, body, 'a')],
	['takingTickBack', commands.takingTickBack(id, 3, 'a')]
];

it.each(WRITES)('%s is something the API does, and its answer can be told', (name, write) => {
	const shape = write.path
		.replace('/api/v1', '')
		.replaceAll(/[0-9a-f-]{36}|\/3$/g, (part) => (part === '/3' ? '/{id}' : '{id}'));
	const known = OPERATIONS.map((o) => `${o.method} ${o.path.replaceAll(/\{\w+\}/g, '{id}')}`);
	expect(known).toContain(`${write.method.toLowerCase()} ${shape}`);
	expect(expectedId(write)).toBe(name === 'voidingReadings' ? other : id);
	expect(lanesOf(write)).not.toHaveLength(0);
	expect(write.about).not.toBe('');
});

it('every write is one of its own, and a reading’s is known again', () => {
	expect(new Set(WRITES.map(([, w]) => w.id)).size).toBe(WRITES.length);
	const saves = commands.savesReading(id);
	expect(WRITES.filter(([, w]) => saves(w)).map(([name]) => name)).toEqual(['savingReading']);
});
