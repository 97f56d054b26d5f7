import { expect, it } from 'vitest';
import { bad, good } from '../../../core/base';
import { amountsOf, placeAfter } from './form';

it('reads numbers of a form in whatever unit they were typed, and tells all that is wrong at once', () => {
	const fine = amountsOf();
	expect(fine.read('/netVolumeL', '100 gal', 'volume', 'L')).toBe(378.5);
	// What is typed in our own unit stays to the last digit.
	expect(fine.read('/netVolumeL', '378,5411', 'volume', 'L')).toBe(378.5411);
	// A specific gravity is known for one.
	expect(fine.read('/salinityPsu', '1.026', 'salinity', 'PSU')).toBe(34.51);
	expect(fine.and(good('sent'))).toEqual(good('sent'));

	const wrong = amountsOf();
	expect(wrong.read('/netVolumeL', 'plenty', 'volume', 'L')).toBe('plenty');
	expect(wrong.read('/salinityPsu', undefined, 'salinity', 'PSU')).toBe('');
	const told = wrong.and(
		// The schema has its own words for the same places, and one of its own.
		{
			ok: false,
			problems: [
				{ path: '/netVolumeL', message: 'must be a number' },
				{ path: '/name', message: 'is missing' }
			]
		}
	);
	expect(!told.ok && told.problems.map((p) => p.path)).toEqual(['/netVolumeL', '/salinityPsu', '/name']);
	// Nothing is taken where a number was wrong, whatever else was right.
	expect(wrong.and(good('sent')).ok).toBe(false);
	expect(amountsOf().and(bad('/name', 'is missing')).ok).toBe(false);
});

it.each([
	['/s/1/rack?a=1', '/s/1/rack?a=1'],
	['', '/'],
	[undefined, '/'],
	['rack', '/'],
	['//elsewhere.example', '/'],
	['/\\elsewhere.example', '/'],
	['/\t/elsewhere.example', '/'],
	['/./\\elsewhere.example', '/'],
	['https://elsewhere.example/', '/'],
	['/a/../b#c', '/b#c']
])('leads afterwards only to a place of ours: %j', (to, wanted) => {
	expect(placeAfter(to, 'https://tevrik.example')).toBe(wanted);
});
