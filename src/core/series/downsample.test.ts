import { expect, it } from 'vitest';
import { outermost, downsample } from './downsample';

const count = 5000;
const marks = Array.from({ length: count }, (_, i) => ({ at: i, y: i === 2345 ? 99 : Math.sin(i) }));

it('keeps a short line whole, and of a long one the last point and an even share', () => {
	expect(downsample([1, 2, 3])).toEqual([1, 2, 3]);
	const line = downsample(marks);
	expect(line.length).toBeLessThanOrEqual(700);
	expect(line.at(-1)).toBe(marks.at(-1));
	expect(new Set(line.slice(1).map((p, i) => p.at - line[i]!.at)).size).toBe(1);
});

it('keeps what stands out, what is always to be seen, and the order', () => {
	const kept = outermost(
		marks,
		(m) => m.at,
		(m) => (m.at === 17 ? undefined : m.y)
	);
	expect(kept.length).toBeLessThanOrEqual(1003);
	for (const must of [17, 2345]) expect(kept).toContain(marks[must]);
	expect(kept).toEqual([...kept].sort((a, b) => a.at - b.at));
	expect(Math.min(...kept.map((m) => m.y))).toBe(Math.min(...marks.map((m) => m.y)));
	expect(
		outermost(
			marks.slice(0, 900),
			(m) => m.at,
			(m) => m.y
		)
	).toHaveLength(900);
});
