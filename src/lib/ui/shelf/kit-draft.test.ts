import { describe, expect, it } from 'vitest';
import { SHIPPED_METHODS, checkMethod, hasOwnChart, isKnownValue, read } from '$core/methods';
import { chartTyped, pasted, rowsOf, withRoom, type Row } from './chart-rows';
import { freshMethod } from './fresh-method';
import { packed, unpacked } from './kit-link';
import { LOOKS, freshKit, kitOf, lookOf, parametersFor, showing, stands, templatesFor } from './kit-draft';
import { patchValues } from './typed';
import { editorOf } from '$lib/ui/instruments/editors';

const syringe = { parameter: 'alkalinity', unit: 'dKH', reads: 'syringe', fillMl: 1 } as const;
const typed = (...lines: string[]): Row[] =>
	lines.map((line) => {
		const [reading = '', value = ''] = line.split(' ');
		return { reading, value };
	});

describe('lines of a leaflet as they are typed', () => {
	it('waits for half a line, takes either decimal sign, and names the row that is none', () => {
		expect(chartTyped(typed('1,00 0', '.5'), syringe)).toMatchObject({ points: [[1, 0]], fit: undefined });
		const two = chartTyped(typed('1,00 0', '.5 8,4'), syringe);
		expect([two.fit!.perMl, two.fit!.readAs]).toEqual([16.8, 'left']);
		const wrong = chartTyped(typed('1 0', 'half 8', '.5 8', '.5 8.1'), syringe);
		expect([...wrong.problems.keys()]).toEqual([1, 3]);
		const beyond = chartTyped(typed('3 0', '1 8'), syringe);
		expect(beyond.problems.get(0)).toMatch(/cannot be left in a syringe of 1 mL/);
	});

	it('a line that its keeper knows to be right stays, and is known to be so when the chart is opened again', () => {
		const instrument = { parameter: 'calcium', unit: 'mg/L', reads: 'drops' as const, fillMl: 1 };
		const rows = typed('5 75', '10 150', '15 260', '20 300', '25 375', '30 450');
		const doubted = chartTyped(rows, instrument);
		expect(doubted.fit!.suspects.map((s) => s.index)).toEqual([2]);
		const kept = chartTyped(
			rows.map((row, i) => (i === 2 ? { ...row, sure: true } : row)),
			instrument
		);
		expect(kept.fit).toMatchObject({ suspects: [], linear: false, scale: { kind: 'table' } });
		const template = SHIPPED_METHODS.find((m) => m.id === 'ca-drops')!;
		const opened = rowsOf(editorOf(template).lined!.charted(template, kept.fit!, kept.points));
		expect(opened.map((row) => row.value)).toEqual(['75', '150', '260', '300', '375', '450', '']);
		expect(chartTyped(opened, instrument).fit!.suspects).toEqual([]);
	});

	it('a pasted table takes its rows from where it was pasted; a number stays a number', () => {
		expect(pasted(typed('1 0'), 1, '0,9\t1,6\n0,8\t3,3')).toEqual(
			withRoom([...typed('1 0'), { reading: '0.9', value: '1.6' }, { reading: '0.8', value: '3.3' }])
		);
		expect(pasted([], 0, 'reading; dKH\n0.5; 8')).toEqual(withRoom(typed('0.5 8')));
		expect(pasted([], 0, '0.48')).toBeUndefined();
		expect(pasted([], 0, 'no numbers\nat all')).toBeUndefined();
	});
});

describe('a kit by how it looks', () => {
	it('every template is found by its picture and what it measures, and is one that can be read', () => {
		for (const m of SHIPPED_METHODS.filter((x) => !isKnownValue(x))) {
			const look = lookOf(m);
			expect(parametersFor(look), m.id).toContain(m.parameter);
			expect(templatesFor(look, m.parameter).map((t) => t.id)).toContain(m.id);
			const kit = kitOf(freshKit(look, m.parameter, m.unit, m.id)).profile;
			expect(checkMethod(kit), m.id).toEqual([]);
			expect(stands(kit), m.id).toBe(hasOwnChart(m) ? 'needs none' : 'without');
			// Nothing of the template's own making stays with it.
			expect([kit.notes, kit.pack]).toEqual([undefined, undefined]);
		}
		for (const { id } of LOOKS)
			for (const parameter of parametersFor(id))
				expect(checkMethod(kitOf(freshKit(id, parameter)).profile), `${id} ${parameter}`).toEqual([]);
	});

	it('becomes the keeper’s own by its lines, in their unit, with their sample in the words of its steps', () => {
		const draft = {
			...freshKit('syringe', 'alkalinity', 'meq/L'),
			sampleMl: '5',
			rows: typed('1.00 0', '0.50 3', '0.20 4.8')
		};
		const { profile, chart } = kitOf(draft);
		expect([stands(profile), chart!.fit!.suspects]).toEqual(['own', []]);
		expect(profile).toMatchObject({
			unit: 'meq/L',
			lines: [
				[1, 0],
				[0.5, 3],
				[0.2, 4.8]
			]
		});
		expect(profile.samples!.map((s) => s.ml)).toEqual([5, 2.5]);
		expect(profile.steps!.some((s) => s.text.includes('5 mL'))).toBe(true);
		const result = read({ method: profile, reading: { left: 0.5 } });
		expect(result.ok && Math.abs(result.value.value! - 3) < 0.1).toBe(true);
	});

	it('a card by the values of its patches, whatever parts them', () => {
		expect(patchValues('0 2,5 5; 10')).toEqual([0, 2.5, 5, 10]);
		const card = (patches: string) => kitOf({ ...freshKit('card', 'nitrate'), patches }).profile;
		expect(card('0 2,5 5 10')).toMatchObject({ shades: [0, 2.5, 5, 10], form: 'card' });
		expect([stands(card('0 2,5 5 10')), stands(card(''))]).toEqual(['own', 'without']);
		expect(checkMethod(card('0 5 2')).map((p) => p.path)).toEqual(['/shades/2']);
	});

	it('goes by a link and comes out of it; what is no kit, cut off, or a bomb does not', async () => {
		const { profile } = kitOf({ ...freshKit('drops', 'calcium'), rows: typed('4 60', '8 120') });
		const link = await packed(profile);
		expect(link).toMatch(/^[\w-]+$/);
		expect(await unpacked(link)).toEqual(JSON.parse(JSON.stringify(profile)));
		for (const part of ['', 'no%20kit', link.slice(0, 40)]) expect(await unpacked(part)).toBeUndefined();
		expect(await unpacked(await packed({ bomb: '0'.repeat(5_000_000) }))).toBeUndefined();
	});
});

it('a method read by another instrument keeps what it measures and takes away, and nothing of the glass', () => {
	const total = SHIPPED_METHODS.find((m) => m.id === 'mg-after-ca')!;
	const drops = { ...freshMethod('drops', total), name: 'Total, drops' };
	expect(drops).toMatchObject({ reads: 'drops', parameter: 'magnesium', takeAway: { parameter: 'calcium' } });
	expect(drops).not.toHaveProperty('syringe');
	expect(checkMethod(drops)).toEqual([]);
	expect(freshMethod('display', total)).not.toHaveProperty('takeAway');
});

it('drops by one number: so many for each, where the leaflet has no table', () => {
	const draft = { ...freshKit('drops', 'calcium', 'mg/L'), perDrop: '20' };
	const { profile } = kitOf(draft);
	expect(profile).toMatchObject({ reads: 'drops', scale: { kind: 'linear', perDrop: 20, atZero: 0 } });
	expect(stands(profile)).toBe('own');
	expect(checkMethod({ ...profile, id: 'k' })).toEqual([]);
	// Lines of a table go before it; nothing, or no number, is no chart.
	const lines = [
		{ reading: '10', value: '150' },
		{ reading: '20', value: '300' },
		{ reading: '30', value: '450' }
	];
	expect(kitOf({ ...draft, rows: lines }).profile).toMatchObject({ scale: { perDrop: 15 } });
	for (const perDrop of ['', 'many', '0'])
		expect(stands(kitOf({ ...draft, perDrop }).profile)).toBe('without');
});

it('an instrument shows what it shows: its scale is that of the unit, whoever counts otherwise', () => {
	const glass = freshKit('glass', 'salinity', 'PSU');
	expect([glass.unit, kitOf(glass).profile]).toMatchObject([
		'SG 25/25',
		{ display: { unit: 'SG 25/25', graduation: 0.001 } }
	]);
	expect(kitOf(showing(glass, 'PSU')).profile).toMatchObject({ display: { unit: 'PSU', graduation: 1 } });
	// No template shows dKH: 1 ppm is 0.056 dKH, 5 ppm 0.28, 300 ppm 16.8.
	const meter = kitOf(showing(freshKit('meter', 'alkalinity', 'dKH'), 'dKH')).profile;
	expect(meter).toMatchObject({ display: { unit: 'dKH', resolution: 0.05, absolute: 0.28, relative: 0.05 } });
	expect('display' in meter && meter.display.range![1]).toBeCloseTo(16.8, 1);
	expect(checkMethod(meter)).toEqual([]);
});
