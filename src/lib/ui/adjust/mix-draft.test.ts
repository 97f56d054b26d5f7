import { expect, it } from 'vitest';
import { freshMix, saltIn, sharesIn, type MixDraft } from './mix-draft';

const draft = (more: Partial<MixDraft> = {}): MixDraft => ({
	...freshMix({ netVolumeL: 200, waterChange: { water: { alkalinity: 8 } } }),
	...more
});
const tap = { hardness: '16', alkalinity: '12' };

it('shares two waters by what is typed of them, with a comma too', () => {
	const { values } = draft();
	const made = sharesIn(draft({ values: { ...values, tap }, wanted: { hardness: '6' }, litres: '40,0' }));
	if (!made || !('found' in made)) throw new Error('no shares');
	expect(Object.fromEntries(made.found.of.map((w) => [w.id, w.litres]))).toEqual({
		tap: expect.closeTo(15, 6),
		purified: expect.closeTo(25, 6)
	});
	expect(made.found.values['alkalinity']).toBeCloseTo((15 / 40) * 12, 6);
});

it('says which number is missing of which water, and nothing before anything is wanted', () => {
	expect(sharesIn(draft())).toBeUndefined();
	expect(sharesIn(draft({ wanted: { hardness: 'six' } }))).toBeUndefined();
	expect(sharesIn(draft({ wanted: { hardness: '6' }, litres: '0' }))).toBeUndefined();
	expect(sharesIn(draft({ wanted: { hardness: '6' } }))).toEqual({
		missing: 'Tap water: type its general hardness first.'
	});
	const { values } = draft();
	const third = draft({
		values: { ...values, tap },
		wanted: { alkalinity: '6' },
		with: { tap: true, mix: true }
	});
	// New water is known by what changes are planned with.
	expect(sharesIn(third)).toHaveProperty('found');
});

it('weighs salt for fresh water and for a tank, and takes water out of what is too salty', () => {
	const salt = (now: string, wanted: string, litres = '100') => saltIn({ salt: { now, wanted, litres } });
	expect(salt('', '35')).toBeUndefined();
	const fresh = salt('0', '35');
	expect(fresh?.ok && fresh.value.fresh && fresh.value.saltG).toBeGreaterThan(3500);
	const tank = salt('33', '35');
	expect(tank?.ok && !tank.value.fresh && tank.value.saltG).toBeGreaterThan(150);
	const thinned = salt('38', '35');
	expect(thinned?.ok && thinned.value.saltG === 0 && thinned.value.swapL).toBeGreaterThan(5);
	// No water is so salty: the field says so.
	expect(salt('33', '350')).toBeUndefined();
});
