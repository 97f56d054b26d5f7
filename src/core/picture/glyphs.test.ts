import { expect, it } from 'vitest';
import { normal, uniform } from '../statistics';
import { inkWords, reread, type LeafletRequest, type Pixels } from '.';

/** A face of our own, five by seven. */
const FACE: Record<string, string> = {
	'0': '01110 10001 10011 10101 11001 10001 01110',
	'1': '00100 01100 00100 00100 00100 00100 01110',
	'2': '01110 10001 00001 00110 01000 10000 11111',
	'3': '11110 00001 00001 01110 00001 00001 11110',
	'4': '00010 00110 01010 10010 11111 00010 00010',
	'5': '11111 10000 11110 00001 00001 10001 01110',
	'6': '00110 01000 10000 11110 10001 10001 01110',
	'7': '11111 00001 00010 00100 00100 00100 00100',
	'8': '01110 10001 10001 01110 10001 10001 01110',
	'9': '01110 10001 10001 01111 00001 00010 01100'
};
/** Pixels of a dot of it. */
const DOT = 3;

/** Numbers printed below one another on grey paper with grain. */
function printed(lines: string[]): Pixels {
	const gauss = normal(uniform(7));
	const [width, height] = [260, 20 + 40 * lines.length];
	const data = new Uint8ClampedArray(4 * width * height).fill(255);
	const put = (x: number, y: number, v: number) => data.fill(v, 4 * (y * width + x), 4 * (y * width + x) + 3);
	for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) put(x, y, 200 + 6 * gauss());
	const box = (x: number, y: number) => {
		for (let j = 0; j < DOT; j++) for (let i = 0; i < DOT; i++) put(x + i, y + j, 40 + 10 * gauss());
	};
	lines.forEach((line, row) => {
		let x = 60;
		for (const char of line) {
			if (char === '.') {
				box(x, 20 + 40 * row + 6 * DOT);
				x += 3 * DOT;
				continue;
			}
			FACE[char]!.split(' ').forEach((bits, j) =>
				[...bits].forEach((bit, i) => bit === '1' && box(x + i * DOT, 20 + 40 * row + j * DOT))
			);
			x += 7 * DOT;
		}
	});
	return { width, height, data };
}
const LINES = Array.from({ length: 24 }, (_, i) => (1.1 + 0.37 * i).toFixed(2));

it('tells digits by the sheet’s own face: what recognition dropped or took for another comes back, and is in doubt', () => {
	const pixels = printed(LINES);
	const words = inkWords(pixels);
	expect(words).toHaveLength(LINES.length);
	const misreadings: Record<number, string> = { 0: '0', 3: '2', 9: '', 12: 'S54', 17: '738', 20: 'no' };
	const texts = words.map(({ box, decimals }, i): LeafletRequest['words'][number] => ({
		text: misreadings[i] ?? LINES[i]!.replace('.', ''),
		confidence: 90,
		box,
		...(decimals ? { decimals } : {})
	}));
	const again = reread(pixels, words, texts);
	expect(again.map((w) => w.text)).toEqual(LINES);
	for (const [i, word] of again.entries())
		expect(word.confidence < 70, `${i} ${word.confidence}`).toBe(Object.hasOwn(misreadings, i));
});

it('leaves alone what is not of that face: headings, strokes, and a sheet where recognition named nothing', () => {
	const pixels = printed([...LINES, '111']);
	const words = inkWords(pixels);
	const texts = words.map(({ box }) => ({ text: '', confidence: 0, box }));
	expect(reread(pixels, words, texts)).toEqual(texts);
	const named = words.map(({ box }, i) => ({
		text: LINES[i]?.replace('.', '') ?? 'mL',
		confidence: 90,
		box
	}));
	// A blank word of a face with too few letters named is not guessed at.
	const few = named.map((w, i) => (i < 22 ? { ...w, text: '' } : w));
	expect(
		reread(pixels, words, few).filter((w, i) => i < 22 && w.text !== '' && w.text !== LINES[i]).length
	).toBe(0);
});
