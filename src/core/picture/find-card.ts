import { nth } from '../base';
import { median } from '../statistics';
import type { Corners, Pixels, Spot } from './pixels';

/** Patches are looked for in a picture of so many pixels along its longer side: finer grain is noise. */
const LOOKED_AT = 240;
/** Neighbouring pixels of one patch differ by no more than this in their three channels together, and from its mean by no more than that: for strong colours, and for pale ones. */
const EVENNESS = [
	[26, 45],
	[11, 20]
] as const;
/** So many of the palest patches may be no darker than their paper. */
const UNSEEN = 2;
/** A patch's share of the picture. */
const SMALLEST = 0.0006;
const LARGEST = 0.06;
/** A patch fills so much of the rectangle around it. */
const RECTANGULAR = 0.72;
/** The next patch of a row is found so near to where it should be, in steps, and is no more than so many times as large. */
const NEAR = 0.3;
const ALIKE = 2.2;

/** So many even areas may be patches. */
const MOST_FIELDS = 160;

interface Field {
	centre: Spot;
	area: number;
	/** Half extents along two directions at right angles. */
	axes: [{ along: Spot; half: number }, { along: Spot; half: number }];
	colour: [number, number, number];
}

/**
 * A row of so many alike patches, deeper one by one: the corners of their strip, palest patch first. The palest may be no darker than
 * its paper; then it is taken to stand where the row goes on. Nothing where no such row is seen.
 *
 * @example findStrip({ width: 2, height: 2, data: new Uint8ClampedArray(16) }, 5) // → undefined
 */
export function findStrip(pixels: Pixels, count: number): Corners | undefined {
	const factor = Math.max(1, Math.max(pixels.width, pixels.height) / LOOKED_AT);
	const small = factor > 1 ? shrunk(pixels, factor) : pixels;
	const fields: Field[] = [];
	for (const [between, fromMean] of EVENNESS)
		for (const field of fieldsIn(small, between, fromMean))
			if (!fields.some((f) => length(minus(f.centre, field.centre)) < 3 && alike(f, field)))
				fields.push(field);
	// The largest: grain makes thousands of small ones, and every pair of them would be looked along.
	fields.sort((a, b) => b.area - a.area).splice(MOST_FIELDS);
	let best: { row: Field[]; score: number } | undefined;
	for (const a of fields)
		for (const b of fields) {
			if (a === b || !alike(a, b)) continue;
			const row = rowFrom(a, b, fields);
			if (row.length < Math.max(3, count - UNSEEN) || row.length > count) continue;
			const score = row.length - unevenness(row) - 2 * disorder(row);
			if (!best || score > best.score) best = { row, score };
		}
	if (!best) return undefined;
	const row =
		paleness(nth(best.row, 0)) >= paleness(nth(best.row, best.row.length - 1))
			? best.row
			: [...best.row].reverse();
	while (row.length < count) row.unshift(before(row));
	return cornersOf(row).map(({ x, y }) => ({ x: x * factor, y: y * factor })) as Corners;
}

const paleness = ({ colour }: Field) => Math.min(...colour);
const alike = (a: Field, b: Field) => a.area < ALIKE * b.area && b.area < ALIKE * a.area;
const minus = (a: Spot, b: Spot): Spot => ({ x: a.x - b.x, y: a.y - b.y });
const length = ({ x, y }: Spot) => Math.hypot(x, y);

/** The row that two neighbours begin, on to both sides. */
function rowFrom(a: Field, b: Field, fields: Field[]): Field[] {
	const row = [a, b];
	const grow = (atEnd: boolean) => {
		for (;;) {
			const [last, one] = atEnd ? [row[row.length - 1]!, row[row.length - 2]!] : [row[0]!, row[1]!];
			const step = minus(last.centre, one.centre);
			const to = { x: last.centre.x + step.x, y: last.centre.y + step.y };
			const next = fields
				.filter(
					(f) => !row.includes(f) && alike(f, last) && length(minus(f.centre, to)) < NEAR * length(step)
				)
				.sort((f, g) => length(minus(f.centre, to)) - length(minus(g.centre, to)))[0];
			if (!next) return;
			if (atEnd) row.push(next);
			else row.unshift(next);
		}
	};
	// Patches are neighbours: no more than twice their own size apart.
	const step = minus(b.centre, a.centre);
	const half = Math.max(
		...a.axes.map(({ along, half }) => half * Math.abs((along.x * step.x + along.y * step.y) / length(step)))
	);
	if (length(step) > 5 * half) return row;
	grow(true);
	grow(false);
	return row;
}

/** How much steps from patch to patch differ. */
function unevenness(row: Field[]): number {
	const steps = row.slice(1).map((f, i) => length(minus(f.centre, nth(row, i).centre)));
	const middle = median(steps);
	return Math.max(...steps.map((s) => Math.abs(s / middle - 1)));
}

/** Share of steps that go the other way in paleness. */
function disorder(row: Field[]): number {
	const deeper = row.slice(1).map((f, i) => paleness(nth(row, i)) - paleness(f));
	const down = deeper.filter((d) => d > 0).length / deeper.length;
	return Math.min(down, 1 - down);
}

/** The patch before the first, as the row goes on. */
function before(row: Field[]): Field {
	// As the whole row goes: two centres alone may be off sideways.
	const [first, second, last] = [nth(row, 0), nth(row, 1), nth(row, row.length - 1)];
	const along = minus(first.centre, last.centre);
	const one = length(minus(first.centre, second.centre)) / length(along);
	const step = { x: along.x * one, y: along.y * one };
	return { ...first, centre: { x: first.centre.x + step.x, y: first.centre.y + step.y } };
}

/** The outer corners of a row of patches. */
function cornersOf(row: Field[]): Corners {
	const [first, last] = [nth(row, 0), nth(row, row.length - 1)];
	const along = minus(last.centre, first.centre);
	const unit = { x: along.x / length(along), y: along.y / length(along) };
	const across = { x: -unit.y, y: unit.x };
	const halfAt = (f: Field, direction: Spot) =>
		f.axes.reduce((best, axis) => {
			const cos = Math.abs(axis.along.x * direction.x + axis.along.y * direction.y);
			return cos > 0.7 ? axis.half / cos : best;
		}, f.axes[0].half);
	const halves = (direction: Spot) => median(row.map((f) => halfAt(f, direction)));
	const [long, broad] = [halves(unit), halves(across)];
	const at = (f: Field, forth: number, side: number): Spot => ({
		x: f.centre.x + forth * long * unit.x + side * broad * across.x,
		y: f.centre.y + forth * long * unit.y + side * broad * across.y
	});
	return [at(first, -1, 1), at(first, -1, -1), at(last, 1, -1), at(last, 1, 1)];
}

/** Even areas of a picture that may be patches. */
function fieldsIn({ width, height, data }: Pixels, stepBetween: number, fromMean: number): Field[] {
	const seen = new Uint8Array(width * height);
	const fields: Field[] = [];
	const stack: number[] = [];
	for (let start = 0; start < width * height; start++) {
		if (seen[start]) continue;
		let n = 0;
		const sums = [0, 0, 0, 0, 0, 0, 0, 0];
		const members: number[] = [];
		seen[start] = 1;
		stack.push(start);
		while (stack.length) {
			const at = stack.pop()!;
			const x = at % width;
			const y = (at / width) | 0;
			n++;
			members.push(at);
			const [r, g, b] = [data[4 * at]!, data[4 * at + 1]!, data[4 * at + 2]!];
			sums[0]! += r;
			sums[1]! += g;
			sums[2]! += b;
			sums[3]! += x;
			sums[4]! += y;
			sums[5]! += x * x;
			sums[6]! += y * y;
			sums[7]! += x * y;
			const mean = [sums[0]! / n, sums[1]! / n, sums[2]! / n] as const;
			for (let side = 0; side < 4; side++) {
				if ((side === 0 && x === 0) || (side === 1 && x === width - 1)) continue;
				const next = at + (side === 0 ? -1 : side === 1 ? 1 : side === 2 ? -width : width);
				if (next < 0 || next >= seen.length || seen[next]) continue;
				const [p, q, o] = [data[4 * next]!, data[4 * next + 1]!, data[4 * next + 2]!];
				if (Math.abs(p - r) + Math.abs(q - g) + Math.abs(o - b) >= stepBetween) continue;
				if (Math.abs(p - mean[0]) + Math.abs(q - mean[1]) + Math.abs(o - mean[2]) >= fromMean) continue;
				seen[next] = 1;
				stack.push(next);
			}
		}
		if (n < Math.max(20, SMALLEST * width * height) || n > LARGEST * width * height) continue;
		const field = fieldOf(n, sums, members, width);
		if (field) fields.push(field);
	}
	return fields;
}

function fieldOf(n: number, sums: number[], members: number[], width: number): Field | undefined {
	const [, , , sx, sy, sxx, syy, sxy] = sums as [
		number,
		number,
		number,
		number,
		number,
		number,
		number,
		number
	];
	const centre = { x: sx / n, y: sy / n };
	const [vx, vy, vxy] = [sxx / n - centre.x ** 2, syy / n - centre.y ** 2, sxy / n - centre.x * centre.y];
	let angle = 0.5 * Math.atan2(2 * vxy, vx - vy);
	// A square has no longer side: its rim tells how it is turned, where its rectangle is smallest.
	const extents = (turn: number) => {
		const [c, s] = [Math.cos(turn), Math.sin(turn)];
		let [p, q] = [0, 0];
		for (const at of members) {
			const [dx, dy] = [(at % width) - centre.x, ((at / width) | 0) - centre.y];
			p = Math.max(p, Math.abs(dx * c + dy * s));
			q = Math.max(q, Math.abs(dy * c - dx * s));
		}
		return [p + 0.5, q + 0.5] as const;
	};
	let [p, q] = extents(angle);
	// A rectangle fills its frame; what does not is turned until its frame is smallest.
	if (n / (4 * p * q) < RECTANGULAR)
		for (let turn = 0; turn < Math.PI / 2; turn += Math.PI / 20) {
			const [r, t] = extents(turn);
			if (r * t < p * q) [angle, p, q] = [turn, r, t];
		}
	if (n / (4 * p * q) < RECTANGULAR || Math.max(p, q) > 8 * Math.min(p, q)) return undefined;
	const [c, s] = [Math.cos(angle), Math.sin(angle)];
	return {
		centre: { x: centre.x + 0.5, y: centre.y + 0.5 },
		area: n,
		axes: [
			{ along: { x: c, y: s }, half: p },
			{ along: { x: -s, y: c }, half: q }
		],
		colour: [sums[0]! / n, sums[1]! / n, sums[2]! / n]
	};
}

/**
 * A picture made smaller by a factor above 1, each pixel the mean of those it stands for.
 *
 * @example shrunk({ width: 4, height: 2, data: new Uint8ClampedArray(32).fill(8) }, 2).width // → 2
 */
export function shrunk({ width, height, data }: Pixels, factor: number): Pixels {
	const [w, h] = [Math.max(1, Math.floor(width / factor)), Math.max(1, Math.floor(height / factor))];
	const out = new Uint8ClampedArray(4 * w * h);
	for (let y = 0; y < h; y++)
		for (let x = 0; x < w; x++) {
			const left = Math.floor(x * factor);
			const right = Math.min(width, Math.ceil((x + 1) * factor));
			const top = Math.floor(y * factor);
			const bottom = Math.min(height, Math.ceil((y + 1) * factor));
			let r = 0;
			let g = 0;
			let b = 0;
			for (let j = top; j < bottom; j++)
				for (let i = left; i < right; i++) {
					const at = 4 * (j * width + i);
					r += data[at]!;
					g += data[at + 1]!;
					b += data[at + 2]!;
				}
			const count = (right - left) * (bottom - top);
			const to = 4 * (y * w + x);
			out[to] = r / count;
			out[to + 1] = g / count;
			out[to + 2] = b / count;
			out[to + 3] = 255;
		}
	return { width: w, height: h, data: out };
}
