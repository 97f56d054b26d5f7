import { afterEach, describe, expect, it } from 'vitest';
import { tagged, type DisplayMethod, type GivenReading } from '$core/instruments';
import { SHIPPED_METHODS, read } from '$core/methods';
import { seenInWords } from '$core/instruments';
import { parseQuick } from '$core/quick';
import { habitsFrom } from '$lib/ui/habits';
import { answeredYes } from './answered';
import { draftOf, draftOn, freshDraft, readingOf, type Draft } from './draft';
import { shownOn } from './shown/draft';

const of = (id: string) => SHIPPED_METHODS.find((m) => m.id === id)!;
const reading = (id: string, part: Partial<Draft>) => readingOf(of(id), { ...freshDraft(of(id)), ...part });

describe('what stands on an instrument', () => {
	it.each<[string, Partial<Draft>, GivenReading]>([
		['alk-syringe-6', { text: '0,48' }, { left: 0.48 }],
		['alk-syringe-6', { text: '0,48', readAs: 'used', refills: 1 }, { used: 0.48, refills: 1 }],
		['ca-drops', { text: '28', confirming: 1, doubtful: 1 }, { drops: 28, confirming: 1, doubtful: 1 }],
		['no3-card', { text: '5' }, { shade: 5 }],
		['no3-card', { text: '3' }, { between: [2, 5] }],
		['no3-card', { text: '2-5 @ 0,3', placed: true }, { between: [2, 5], position: 0.3 }],
		// Who can tell how far between says so by the number itself.
		['no3-card', { text: '3.5', placed: true }, { between: [2, 5], position: 0.5 }],
		['no3-card', { text: '5', placed: true }, { shade: 5 }],
		['no3-card', { text: '>20' }, { above: 20 }],
		[
			'no3-card',
			{ text: '50', column: 'high range, diluted 1 in 10' },
			{ shade: 50, column: 'high range, diluted 1 in 10' }
		],
		['no3-card', { text: '5 ppm' }, { shade: 5 }],
		['po4-meter', { text: '38' }, { shown: 38 }],
		[
			'no3-card',
			{ text: '5', thinnedMl: '1 mL', withMl: '0,009 L' },
			{ shade: 5, dilution: { sampleMl: 1, waterMl: 9 } }
		],
		[
			'no3-card',
			{ text: '>20', thinnedMl: '1', withMl: '9' },
			{ above: 20, dilution: { sampleMl: 1, waterMl: 9 } }
		],
		['sg-hydrometer', { text: '1,0255', temperature: '24' }, { shown: 1.0255, temperatureC: 24 }],
		[
			'sg-refractometer',
			{ text: '1.025', standard: '1.0264', standardShown: '1.0254' },
			{ shown: 1.025, calibration: { standard: 1.0264, shown: 1.0254 } }
		]
	])('%s %j', (id, part, given) => {
		const raw = tagged(of(id), given);
		expect(reading(id, part)).toEqual({ ok: true, value: raw });
		// What was saved can be put back on the instrument, and said in a table.
		const back = reading(id, { ...part, ...draftOf(raw) });
		expect(back).toEqual({ ok: true, value: raw });
		expect(seenInWords(raw)).toMatch(/\d/);
	});

	it.each<[string, Partial<Draft>]>([
		['alk-syringe-6', { text: '<0.4' }],
		['ca-drops', { text: '17.5' }],
		['ca-drops', { text: '-1' }],
		['ca-drops', { text: '17', thinnedMl: '1' }],
		['ca-drops', { text: '17', thinnedMl: '1', withMl: 'some' }],
		['no3-card', { text: '25' }],
		['no3-card', { text: '5 ppm n' }],
		['no3-card', { text: '5 dKH' }],
		['sg-hydrometer', { text: '1.025', temperature: '24 dKH' }],
		['no3-card', { text: '2-5 @ 7', placed: true }],
		['po4-meter', { text: '38 dKH' }],
		['sg-hydrometer', { text: '1.025', temperature: 'warm' }]
	])('refuses %s %j with a sentence', (id, part) => {
		const result = reading(id, part);
		expect(result?.ok).toBe(false);
		expect(result && !result.ok && result.problems[0]!.message.length).toBeGreaterThan(10);
	});

	it('says nothing before anything is set', () => {
		expect(reading('ca-drops', {})).toBeUndefined();
	});

	it('a yes puts on the instrument what was meant', () => {
		const request = { method: of('alk-syringe-6'), reading: { left: 0.05 }, sample: 'full' };
		const value = (r: Parameters<typeof read>[0]) => {
			const result = read(r);
			return result.ok ? result.value.value : null;
		};
		const half = value({ ...request, reading: { left: 0.5 } })!;
		expect(answeredYes(request, 'decimal', half, value)).toMatchObject({ text: '0.5' });
		const swapped = value({ ...request, reading: { used: 0.05 } })!;
		expect(answeredYes(request, 'left-used-swapped', swapped, value)).toMatchObject({
			text: '0.05',
			readAs: 'used'
		});
		expect(answeredYes(request, 'unit', 1, value)).toBeUndefined();
	});
});

describe('a value from elsewhere, as its keeper counts', () => {
	const known = of('known-alkalinity');
	const typed = (text: string) => readingOf(known, { ...freshDraft(known), text });
	afterEach(() => habitsFrom(() => ({})));

	it('is typed in their unit or any other, stored in the parameter’s own, and comes back as it was typed', () => {
		habitsFrom(() => ({ units: { alkalinity: 'ppm CaCO3' } }));
		const shown = (text: string) => {
			const found = typed(text);
			return found?.ok && 'shown' in found.value ? found.value.shown : undefined;
		};
		expect(shown('145')).toBeCloseTo(145 / 17.848, 3);
		expect(shown('8.1 dKH')).toBeCloseTo(8.1, 9);
		expect(shownOn(known as DisplayMethod)).toMatchObject({ unit: 'ppm CaCO3' });
		expect(draftOn(known, { shown: shown('145') as number }).text).toBe('145');
		const bound = typed('<50');
		expect(bound?.ok && draftOn(known, bound.value).text).toBe('<50');
		// An instrument of their own shows what it shows.
		expect(shownOn(of('alk-meter') as DisplayMethod).unit).toBe('ppm CaCO3');
		expect(typed('145 tea')?.ok).toBe(false);
		const quick = parseQuick('alk 145', [known], () => 'ppm CaCO3');
		expect(quick.ok && (quick.value.reading as { shown: number }).shown).toBeCloseTo(145 / 17.848, 3);
	});
});

describe('a hand that its person lets count', () => {
	const hand = { tries: 12, endPoint: { bias: 1, standardUncertainty: 0.1, scatter: 0.5 } };
	afterEach(() => habitsFrom(() => ({})));

	it('goes along with what is read by its kind of instrument on its parameter, and with nothing else', () => {
		habitsFrom(() => ({
			hands: { 'syringe alkalinity': hand, 'shades nitrate': { tries: 40, patches: 0.2 } }
		}));
		const raw = (id: string, part: Partial<Draft>) => {
			const outcome = reading(id, part);
			return outcome?.ok ? outcome.value : undefined;
		};
		expect(raw('alk-syringe-6', { text: '0.48' })).toEqual({ reads: 'syringe', left: 0.48, hand });
		expect(raw('alk-syringe-6', { text: '0.4', thinnedMl: '1', withMl: '9' })).toMatchObject({
			hand,
			dilution: { sampleMl: 1, waterMl: 9 }
		});
		expect(raw('ca-syringe-5', { text: '0.48' })).toEqual({ reads: 'syringe', left: 0.48 });
		expect(raw('alk-drops', { text: '12' })).toEqual({ reads: 'drops', drops: 12 });
		expect(raw('no3-card', { text: '5' })).toMatchObject({ hand: { patches: 0.2 } });
		// A bound needs no eye.
		expect(raw('no3-card', { text: '>20' })).toEqual({ reads: 'shades', above: 20 });
	});
});
