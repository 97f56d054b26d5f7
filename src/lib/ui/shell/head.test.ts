import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { HEAD } from './head';

it('names the paper that the style sheet draws', () => {
	const css = readFileSync('src/app.css', 'utf8');
	const paperOf = (selector: string) =>
		new RegExp(`^${selector} \\{[^}]*?--paper: (#[0-9a-f]{6});`, 'm').exec(css)?.[1];
	expect([paperOf(':root'), paperOf('\\.dark')]).toEqual([HEAD.paper.paper, HEAD.night.paper]);
});
