import { expect, it } from 'vitest';
import { type Method } from '../../core/instruments';
import { SHIPPED_METHODS } from '../../core/methods';
import { received, toSend } from './known-methods';

const [first, second] = SHIPPED_METHODS as [Method, Method];
const copy = <T>(of: T): T => JSON.parse(JSON.stringify(of)) as T;

it('sends what pages know by its id, and gives it back whole', () => {
	const held = SHIPPED_METHODS.map((profile, i) => ({
		id: `m${i}`,
		versionId: `v${i}`,
		profile: copy(profile)
	}));
	const sent = toSend(held);
	expect(sent.map((m) => m.profile)).toEqual(SHIPPED_METHODS.map((m) => m.id));
	expect(received(copy(sent))).toEqual(held);
	expect(JSON.stringify(sent).length).toBeLessThan(JSON.stringify(held).length / 10);
});

it('sends the words of a keeper’s own, and of an older version that shares an id', () => {
	const own = { id: 'a', profile: { ...copy(first), id: 'mine' } };
	const older = { id: 'b', profile: { ...copy(second), name: 'As it was called' } };
	expect(toSend([own, older])).toEqual([own, older]);
	expect(received(copy(toSend([own, older])))).toEqual([own, older]);
});

it('leaves out what a page of an older build cannot know', () => {
	expect(received<{ profile: Method }>([{ profile: 'of-next-year' }])).toEqual([]);
});
