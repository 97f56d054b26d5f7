import { expect, it } from 'vitest';
import type { ShelfSupplement } from '$lib/api/supplements';
import { LABELLED } from '../../../../tests/support/plans';
import { pourableOf } from './pour-draft';
import { volumeOf, type VolumeDraft } from './volume-draft';

const soda: ShelfSupplement = { id: 'b', left: null, lastsDays: null, profile: LABELLED };
const volume = (typed: Partial<VolumeDraft>) =>
	volumeOf(
		pourableOf([soda])[0]!,
		{ poured: '40', before: '7,0', after: '8.0', kit: '0.2', ...typed },
		[{ parameter: 'alkalinity', scatter: 0.05 }],
		{ value: 210, standardUncertainty: 30 }
	);

it('says the volume by what was added over the rise, and joins it with what was known', () => {
	const found = volume({});
	if (!found || 'at' in found) throw new Error('no volume');
	// 40 mL bring 200 dKH·L; a rise of 1 dKH is 200 L.
	expect(found.measured.value).toBeCloseTo(200, 6);
	expect(found.joined!.value).toBeGreaterThan(200);
	expect(found.joined!.value).toBeLessThan(210);
	// The newest test scatters by half of what was typed: it is known better.
	const own = volume({ kit: '' });
	if (!own || 'at' in own) throw new Error('no volume');
	expect(own.measured.standardUncertainty).toBeLessThan(found.measured.standardUncertainty);
});

it.each([
	['poured', { poured: 'x' }],
	['poured', { poured: '0' }],
	['before', { before: 'seven' }],
	['after', { after: '7,0.0' }],
	['after', { after: '6.9' }],
	['kit', { kit: 'x' }],
	['kit', { kit: '0' }]
])('says beside %s what is wrong with %j', (at, typed) => {
	expect(volume(typed)).toEqual({ at, says: expect.any(String) });
});

it('says nothing before all is typed', () => expect(volume({ after: ' ' })).toBeUndefined());
