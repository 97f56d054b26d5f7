/** A leaflet's chart as points sorted by what is read; straight lines between them, nothing past the ends. */
export type Points = [number, number][];

export const sortedPoints = (points: Points): Points => [...points].sort((a, b) => a[0] - b[0]);

/**
 * Value at x, and how steep the chart is there; undefined past its ends.
 *
 * @example interpolate([[0, 0], [1, 10]], 0.4)?.value // → 4
 */
export function interpolate(points: Points, x: number): { value: number; slope: number } | undefined {
	for (let i = 1; i < points.length; i++) {
		const [x0, y0] = points[i - 1]!;
		const [x1, y1] = points[i]!;
		// Charts are typed in decimals: 1 - 0.95 must still meet the line 0.05.
		const slack = (x1 - x0) * 1e-9;
		if (x < x0 - slack || x > x1 + slack) continue;
		const slope = (y1 - y0) / (x1 - x0);
		return { value: y0 + slope * (x - x0), slope };
	}
	return undefined;
}

/**
 * The reading a chart's value stands at; undefined past its ends.
 *
 * @example readingAt([[0, 0], [1, 10]], 4) // → 0.4
 */
export function readingAt(points: Points, value: number): number | undefined {
	const turned = sortedPoints(points.map(([x, y]): [number, number] => [y, x]));
	return interpolate(turned, value)?.value;
}
