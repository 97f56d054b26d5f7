import { figures, typedAs } from '$lib/ui/habits';
import type { Point } from '$lib/api/trends';

interface Summary {
	count: number;
	mean: string;
	scatter: string;
	first: string;
	last: string;
}

/** Readings that count, of a span of time (ms), in five words; bounds and intervals are left out. */
export function summaryOf(points: Point[], { from, to }: { from: number; to: number }): Summary {
	const values = points.flatMap((p) =>
		p.own && p.value !== null && p.at >= from && p.at <= to ? [p.value] : []
	);
	if (!values.length) return { count: 0, mean: '–', scatter: '–', first: '–', last: '–' };
	const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
	const sd = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / Math.max(1, values.length - 1));
	const plain = (v: number) => figures(v);
	return {
		count: values.length,
		mean: plain(mean),
		scatter: plain(sd),
		first: plain(values[0]!),
		last: plain(values.at(-1)!)
	};
}

/** The numbers as the cells of a sheet: one reading a row, the unit in the header. */
export const cellsOf = (points: Point[], methods: { name: string }[], unit: string): string[][] => [
	['time (UTC)', 'bound', `value (${unit})`, 'low', 'high', 'method'],
	...points.map((p) => [
		new Date(p.at).toISOString(),
		p.qualifier,
		...[p.value, p.low, p.high].map((n) => (n === null ? '' : typedAs(n))),
		methods[p.method]!.name
	])
];
