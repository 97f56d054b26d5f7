import { expect, it } from 'vitest';
import { SHIPPED_METHODS } from '../methods';
import { parseNotebook } from './notebook';

const page = (text: string, order: 'dmy' | 'mdy' = 'dmy') =>
	parseNotebook(text, SHIPPED_METHODS, { today: '2026-05-06', order });
const said = (text: string, order?: 'mdy') =>
	page(text, order).map((line) =>
		line.kind === 'test'
			? [
					line.day,
					line.hour,
					line.quick.parameter,
					JSON.stringify({ ...line.quick.reading, reads: undefined })
				]
					.filter(Boolean)
					.join(' ')
			: line.kind
	);

it('takes a column below its heading, with its days, and what is not said as in the line above', () => {
	expect(said('Alk left\n3 May 0,46\n0.48\n4.5. 0.50\n\nca\n2026-05-05 19:40 405\n20:15 410 ppm')).toEqual([
		'heading',
		'2026-05-03 alkalinity {"left":0.46}',
		'2026-05-03 alkalinity {"left":0.48}',
		'2026-05-04 alkalinity {"left":0.5}',
		'nothing',
		'heading',
		'2026-05-05 19:40 calcium {"shown":405}',
		'2026-05-05 20:15 calcium {"shown":410}'
	]);
});
it('takes a day above its tests, each with its own word, and a word of its own ends what a heading said', () => {
	expect(said('Sunday, 3 May 2026\nno3 3-6 mg/l\npo4 38 ppb P yesterday\n40 ppb P')).toEqual([
		'heading',
		'2026-05-03 nitrate {"shown":[3,6]}',
		expect.stringMatching(/^2026-05-05 phosphate/),
		expect.stringMatching(/^2026-05-03 phosphate/)
	]);
});
it('a day without its year is the last of that name, in the order this person writes', () => {
	expect(said('alk\n7/5 8.1 dkh\n5/7 8.1 dkh')).toEqual([
		'heading',
		'2025-05-07 alkalinity {"shown":8.1}',
		'2025-07-05 alkalinity {"shown":8.1}'
	]);
	expect(said('alk 8.1 dkh\n5/4 8.2 dkh', 'mdy')).toEqual(['problem', '2026-05-04 alkalinity {"shown":8.2}']);
	expect(said('31 Dec alk 8 dkh')).toEqual(['2025-12-31 alkalinity {"shown":8}']);
});
it('says of each line what is wrong with it, and takes the others', () => {
	const [first, second, third, fourth] = page('0.46\nalk 0.46\n30 Feb alk 8 dkh\n3 May alk left 0.46 tonne');
	expect([first, second, third, fourth].map((l) => l!.kind)).toEqual(Array(4).fill('problem'));
	expect(first).toMatchObject({ message: expect.stringContaining('what was measured') });
	expect(second).toMatchObject({ message: expect.stringContaining('its day') });
});
