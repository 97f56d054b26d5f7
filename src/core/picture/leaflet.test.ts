import { describe, expect, it } from 'vitest';
import { chart } from '../calibration';
import { leaflet, type LeafletRequest } from '.';

type Words = LeafletRequest['words'];
const word = (text: string, x: number, y: number, confidence = 95, decimals?: number): Words[number] => ({
	text,
	confidence,
	box: [x, y, x + 12 * text.length, y + 20],
	...(decimals ? { decimals } : {})
});
const LINES = Array.from({ length: 40 }, (_, i): [string, string] => [
	(1 - 0.02 * i).toFixed(2),
	(0.34 * i).toFixed(1)
]);
/** A printed chart in blocks side by side, with a heading. */
const printed = (
	blocks: number,
	change: (text: string, line: number, column: 0 | 1) => Partial<Words[number]> = () => ({})
): Words => {
	const rows = LINES.length / blocks;
	return [
		word('mL', 60, 10),
		word('dKH', 180, 10),
		...LINES.flatMap(([reading, value], i) => {
			const [x, y] = [50 + 300 * Math.floor(i / rows), 50 + 32 * (i % rows)];
			return ([reading, value] as const).map((text, c) => ({
				...word(text, x + 120 * c, y),
				...change(text, i, c as 0 | 1)
			}));
		})
	];
};
const read = (words: Words, valueColumn?: number) => {
	const outcome = leaflet({ words, ...(valueColumn === undefined ? {} : { valueColumn }) });
	if (!outcome.ok) throw new Error(outcome.problems[0]!.message);
	return outcome.value;
};
const textOf = (result: ReturnType<typeof read>) => result.lines.map((l) => [l.reading.text, l.value.text]);

describe('lines of a leaflet from recognised words', () => {
	it.each([1, 2, 4])('in %i blocks, headings passed over', (blocks) => {
		const result = read(printed(blocks));
		expect(textOf(result)).toEqual(LINES);
		expect(result.lines.some((l) => l.reading.doubt || l.value.doubt)).toBe(false);
	});

	it('put lost points back, and readings that break the even steps, and doubt both', () => {
		const result = read(
			printed(2, (text, i, c) =>
				c === 1 && i === 7
					? { text: text.replace('.', '') }
					: c === 0 && i === 12
						? { text: '0.16' }
						: c === 0 && i === 30
							? { text: 'O.40' }
							: {}
			)
		);
		expect(textOf(result)).toEqual(LINES);
		expect(
			result.lines.map((l, i) => (l.reading.doubt || l.value.doubt ? i : -1)).filter((i) => i >= 0)
		).toEqual([7, 12, 30]);
		expect(result.lines[12]!.reading.read).toBe('0.16');
	});

	it('take the point that was seen in the print, and join what it tore apart', () => {
		const words = printed(1, (text, i, c) =>
			c === 1 && i % 2 ? { text: text.replace('.', ''), decimals: 1 } : {}
		);
		expect(textOf(read(words))).toEqual(LINES);
		const torn = printed(1).flatMap((w) =>
			/^0\.\d\d$/.test(w.text)
				? [word('0.', w.box[0], w.box[1]), word(w.text.slice(2), w.box[0] + 26, w.box[1])]
				: [w]
		);
		expect(textOf(read(torn))).toEqual(LINES);
	});

	it('of a sheet that is turned, and of a column whose points were all lost behind a nought at the front', () => {
		for (const degrees of [-5, 4]) {
			const turn = (degrees * Math.PI) / 180;
			const turned = printed(1).map((w) => {
				const [x, y] = [(w.box[0] + w.box[2]) / 2, (w.box[1] + w.box[3]) / 2];
				const [dx, dy] = [
					x * Math.cos(turn) - y * Math.sin(turn) - x,
					x * Math.sin(turn) + y * Math.cos(turn) - y
				];
				return { ...w, box: w.box.map((v, i) => v + (i % 2 ? dy : dx)) as typeof w.box };
			});
			expect(textOf(read(turned)), `${degrees}`).toEqual(LINES);
		}
		const lost = read(printed(1, (text, i, c) => (c === 1 && i ? { text: text.replace('.', '') } : {})));
		expect(textOf(lost)).toEqual(LINES);
		expect(lost.lines.filter((l) => l.value.doubt).length).toBeGreaterThan(30);
	});

	it('a value that was misread stays as read, and the chart names it', () => {
		const result = read(printed(2, (_, i, c) => (c === 1 && i === 20 ? { text: '9.8' } : {})));
		const fit = chart({
			parameter: 'alkalinity',
			unit: 'dKH',
			reads: 'syringe',
			points: result.lines.map((l) => [Number(l.reading.text), Number(l.value.text)])
		});
		expect(fit.ok && fit.value.suspects).toEqual([{ index: 20, expected: 6.8 }]);
	});

	it('takes the column that is wanted, and says when there is no chart', () => {
		const three = [1, 0.9, 0.8, 0.7, 0.6].flatMap((left, i) => [
			word(left.toFixed(2), 40, 40 * i),
			word((1.7 * i).toFixed(1), 160, 40 * i),
			word((30.4 * i).toFixed(0), 280, 40 * i)
		]);
		expect(read(three).valueColumns).toBe(2);
		expect(textOf(read(three, 1))[4]).toEqual(['0.60', '122']);
		const outcome = leaflet({ words: [word('Shake', 10, 10), word('well', 90, 10)] });
		expect(outcome.ok ? '' : outcome.problems[0]!.message).toContain('no two columns');
	});
});
