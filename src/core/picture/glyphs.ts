import { nth } from '../base';
import { median } from '../statistics';
import type { InkWord } from './ink';
import type { Box, LeafletRequest } from './leaflet';
import { brightnessBetween, type Pixels } from './pixels';

/**
 * Digits by one another: a leaflet is set in one face, so what most of its digits look like tells which each of them is. Recognition names them
 * first; their means are patterns, and every letter is held against all of them (self-corrective recognition, Nagy & Shelton 1966, IEEE Trans.
 * Inf. Theory 12, 215). What recognition drops, a thin 1 above all, still stands there as ink.
 */

/** A digit is looked at as so many points across and down, centred on its ink. */
const [ACROSS, DOWN] = [14, 20];
/** Of a letter's height. */
const WINDOW = 0.8;
/** A letter wider than this, of the usual advance, is several that run together. */
const TOGETHER = 1.45;
/** How alike a letter and its pattern must be (correlation), and by how much more than the next pattern. */
const ALIKE = 0.7;
const MORE_ALIKE = 0.03;
/** Patterns settle at once. */
const ROUNDS = 3;
/** A pattern needs so many letters. */
const ENOUGH = 2;
/** Recognition that was overruled is looked at by the keeper: below what counts as sure. */
const OVERRULED = 60;
const AGREED = 92;

type Word = LeafletRequest['words'][number];

/** One letter: where it stands, and what it looks like, of mean nought and length one. */
interface Glyph {
	word: number;
	at: number;
	look: Float32Array;
}

/**
 * Words read again by the sheet's own digits. `texts` are what recognition read at the same places; words without digits stay as they are.
 * Digits come with their points, as far as ink showed one.
 *
 * @example reread({ width: 1, height: 1, data: new Uint8ClampedArray(4) }, [], []) // → []
 */
export function reread(pixels: Pixels, words: InkWord[], texts: Word[]): Word[] {
	const advance = advanceOf(words);
	const parts = words.map((word) => partsOf(word, advance));
	const glyphs = parts.flatMap((boxes, word) =>
		boxes.map((box, at): Glyph => ({ word, at, look: lookOf(pixels, nth(words, word), box) }))
	);
	const named = new Map<Glyph, string>();
	for (const glyph of glyphs) {
		const digits = nth(texts, glyph.word).text.replace(/[.,\s]/g, '');
		if (/^\d+$/.test(digits) && digits.length === nth(parts, glyph.word).length)
			named.set(glyph, digits[glyph.at] ?? '');
	}
	let patterns = patternsOf(named);
	for (let round = 0; round < ROUNDS; round++) {
		for (const glyph of named.keys()) {
			const { digit, alike, more } = nearest(glyph, patterns);
			if (alike >= ALIKE && more >= MORE_ALIKE) named.set(glyph, digit);
		}
		patterns = patternsOf(named);
	}
	if (patterns.size < 2) return texts;
	return texts.map((text, word) => {
		const its = glyphs.filter((g) => g.word === word);
		const found = its.map((g) => nearest(g, patterns));
		const sure = found.every(({ alike, more }) => alike >= ALIKE && more >= MORE_ALIKE);
		// A stroke that recognition saw no digit in is a table's line.
		const stroke = its.length < 2 && !/\d/.test(text.text);
		if (!its.length || !sure || stroke) return text;
		const digits = found.map(({ digit }) => digit).join('');
		const behind = decimalsOf(nth(words, word), nth(parts, word));
		const { decimals: _counted, ...rest } = text;
		const same = text.text.replace(/[.,\s]/g, '') === digits;
		return {
			...rest,
			text: behind ? `${digits.slice(0, -behind)}.${digits.slice(-behind)}` : digits,
			confidence: same ? Math.max(text.confidence, AGREED) : Math.min(text.confidence, OVERRULED)
		};
	});
}

/** From the middle of one letter to that of the next, in heights of a letter: figures of a face are set alike wide. */
function advanceOf(words: InkWord[]): number {
	const advances = words.flatMap(({ letters, points }) =>
		letters.slice(1).flatMap((letter, i) => {
			const before = nth(letters, i);
			const middle = (b: Box) => (b[0] + b[2]) / 2;
			const parted = points.some((p) => middle(p) > middle(before) && middle(p) < middle(letter));
			return parted ? [] : [(middle(letter) - middle(before)) / (letter[3] - letter[1])];
		})
	);
	return advances.length ? median(advances) : 0.7;
}

/** A word's letters, those that run together parted evenly. */
function partsOf({ letters }: InkWord, advance: number): Box[] {
	return letters.flatMap((letter): Box[] => {
		const [left, top, right, bottom] = letter;
		const wide = (right - left) / (advance * (bottom - top));
		const count = wide > TOGETHER ? Math.round(wide) : 1;
		return Array.from({ length: count }, (_, i): Box => {
			const each = (right - left) / count;
			return [left + i * each, top, left + (i + 1) * each, bottom];
		});
	});
}

/** How many letters stand behind a word's point; 0 where it has none. */
function decimalsOf({ points }: InkWord, parts: Box[]): number {
	const [point] = points;
	if (!point) return 0;
	const behind = parts.filter((p) => (p[0] + p[2]) / 2 > (point[0] + point[2]) / 2).length;
	return behind < parts.length ? behind : 0;
}

/** Ink about the middle of a letter, in a window of its word's height. */
function lookOf(pixels: Pixels, { letters, points }: InkWord, box: Box): Float32Array {
	const top = median(letters.map((l) => l[1]));
	const bottom = median(letters.map((l) => l[3]));
	const height = bottom - top;
	const middle = (box[0] + box[2]) / 2;
	const look = new Float32Array(ACROSS * DOWN);
	let sum = 0;
	for (let j = 0; j < DOWN; j++)
		for (let i = 0; i < ACROSS; i++) {
			const x = middle + ((i + 0.5) / ACROSS - 0.5) * WINDOW * height;
			const y = top - 0.05 * height + ((j + 0.5) / DOWN) * 1.1 * height;
			// What stands beside it is another letter, or the point.
			const other =
				x < box[0] - 1.5 ||
				x > box[2] + 1.5 ||
				points.some((p) => x > p[0] - 1.5 && x < p[2] + 1.5 && y > p[1] - 1.5);
			const dark = other ? 0 : 255 - brightnessBetween(pixels, x - 0.5, y - 0.5);
			look[j * ACROSS + i] = dark;
			sum += dark;
		}
	// Where another letter was cut away there is paper.
	const paper = Math.min(...look.filter((v) => v > 0), sum / look.length);
	const inked = look.map((v) => Math.max(0, v - paper));
	const mean = inked.reduce((a, b) => a + b, 0) / inked.length;
	const length = Math.hypot(...inked.map((v) => v - mean));
	return inked.map((v) => (length > 0 ? (v - mean) / length : 0));
}

/** The mean look of each digit. */
function patternsOf(named: Map<Glyph, string>): Map<string, Float32Array> {
	const sums = new Map<string, { sum: Float32Array; count: number }>();
	for (const [{ look }, digit] of named) {
		const its = sums.get(digit) ?? { sum: new Float32Array(look.length), count: 0 };
		for (let k = 0; k < look.length; k++) its.sum[k] = (its.sum[k] ?? 0) + (look[k] ?? 0);
		its.count++;
		sums.set(digit, its);
	}
	const patterns = new Map<string, Float32Array>();
	for (const [digit, { sum, count }] of sums) {
		const length = Math.sqrt(sum.reduce((s, v) => s + v * v, 0));
		if (count >= ENOUGH && length > 0)
			patterns.set(
				digit,
				sum.map((v) => v / length)
			);
	}
	return patterns;
}

/** The pattern a letter is most like, how much, and how much more than the next. */
function nearest(
	{ look }: Glyph,
	patterns: Map<string, Float32Array>
): { digit: string; alike: number; more: number } {
	const all = [...patterns]
		.map(([digit, pattern]) => ({ digit, alike: pattern.reduce((sum, v, k) => sum + v * (look[k] ?? 0), 0) }))
		.sort((a, b) => b.alike - a.alike);
	const [best, next] = all;
	return { digit: best?.digit ?? '', alike: best?.alike ?? 0, more: (best?.alike ?? 0) - (next?.alike ?? 0) };
}
