import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { MOST_PIXELS, PHOTOS_OF_A_TANK, PHOTO_BYTES, PHOTO_SIDE } from '../api/photos';
import { MOST_COLUMNS, MOST_LINES } from '../sheets/parse';
import {
	LEAST_SPEED,
	LONGEST_BODY,
	LONGEST_BOOK,
	LONGEST_SHEET,
	MOST_OF_A_PLACE,
	MOST_UNDER_WAY,
	STALLED
} from './http/bodies';
import { MOST_POINTS } from './stores/readings';
import { MOST_TANKS } from './stores/systems';
import { LONGEST as LONGEST_PICTURE } from './work/pictures';
import { POOLS } from './work/pool';

const MIB = 1_048_576;
const grouped = (n: number) => new Intl.NumberFormat('en-GB').format(n);
/** What the table of limits says, by the code. */
const SAYS: [what: string, ...limits: string[]][] = [
	[
		'a request’s body',
		`${LONGEST_BODY / MIB} MiB; a book ${LONGEST_BOOK / MIB} MiB and a sheet ${LONGEST_SHEET / MIB} MiB`
	],
	[
		'bodies on their way',
		`${MOST_UNDER_WAY / MIB} MiB together and ${MOST_OF_A_PLACE} from one place`,
		`nothing for ${STALLED / 1000} s, or less than ${LEAST_SPEED} bytes a second`
	],
	['what is computed for one person', `${POOLS.plans.waitingEach} plans wait`],
	[
		'a picture beside a reading',
		`at most ${MOST_PIXELS / 1e6} million pixels`,
		`ended after ${LONGEST_PICTURE / 1000} s`,
		`${PHOTO_SIDE} pixels and ${PHOTO_BYTES / 1024} KB`,
		`${PHOTOS_OF_A_TANK} in all`
	],
	['a sheet', `${grouped(MOST_LINES)} lines and ${MOST_COLUMNS} columns`],
	['readings an estimate rests on', `the newest ${MOST_POINTS} of a parameter`],
	['tanks of one account', String(MOST_TANKS)]
];

it.each(SAYS)('docs/security.md says of %s what the code does', (what, ...limits) => {
	const line = readFileSync('docs/security.md', 'utf8')
		.replaceAll("'", '’')
		.split('\n')
		.find((l) => l.startsWith(`| ${what} `));
	for (const limit of limits) expect(line).toContain(limit);
});
