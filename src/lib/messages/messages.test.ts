import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { holesOf, languages, roomsOf } from '../../../scripts/messages.mjs';

const OF = new Map(languages().map((language) => [language, new Map(roomsOf(language))]));
const english = OF.get('en')!;
const signature = (message: string) => [...holesOf(message)].sort().flat().join(' ');

/** Everything that could use a message. */
const sources = readdirSync('src', { recursive: true, encoding: 'utf8' })
	.filter((file) => /\.(ts|svelte)$/.test(file) && !/\.test\.ts$|\.d\.ts$/.test(file))
	.map((file) => readFileSync(join('src', file), 'utf8'));

describe.each(languages())('messages in %s', (language) => {
	it('are there for the same keys, with the same holes, and each is an ICU message', () => {
		const rooms = OF.get(language)!;
		expect([...rooms.keys()].sort()).toEqual([...english.keys()].sort());
		for (const [room, messages] of english)
			expect(
				Object.fromEntries(Object.entries(rooms.get(room)!).map(([key, m]) => [key, signature(m)])),
				room
			).toEqual(Object.fromEntries(Object.entries(messages).map(([key, m]) => [key, signature(m)])));
	});

	it('are set as this house sets them: no straight quotes, no three dots, no doubled or outer blanks', () => {
		const all = [...OF.get(language)!.values()].flatMap((messages) => Object.values(messages));
		expect(all.filter((m) => /['"]|\.\.\.| {2}|^ | $/.test(m))).toEqual([]);
	});

	it('leave a number to whoever writes it: only counts are formatted here', () => {
		const all = [...OF.get(language)!.values()].flatMap((messages) => Object.values(messages));
		expect(all.filter((m) => /,\s*(number|date|time|selectordinal)\b/.test(m))).toEqual([]);
	});
});

it('are each used somewhere', () => {
	for (const [room, messages] of english) {
		const users = sources.flatMap((text) => {
			const name = new RegExp(`import \\* as (\\w+) from '\\$messages/${room}'`).exec(text)?.[1];
			return name ? [{ name, text }] : [];
		});
		const isUsed = (key: string) =>
			users.some(({ name, text }) => new RegExp(`\\b${name}\\.${key}\\b`).test(text));
		expect(
			Object.keys(messages).filter((key) => !isUsed(key)),
			room
		).toEqual([]);
	}
});
