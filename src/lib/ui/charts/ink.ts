/** Colours and letters of a chart, as the theme has them now. */
export const ink = (name: string): string =>
	getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

export const chartFont = { family: "'JetBrains Mono Variable', monospace", size: 12 };

/** Marks by which kits are told apart, in the order in which they came. */
export const SHAPES = ['circle', 'rect', 'triangle', 'rectRot', 'star', 'crossRot'] as const;

/** Time along the bottom, on the tank's clock. */
export const timeAxis = (timeZone: string) => ({
	type: 'time' as const,
	adapters: { date: { zone: timeZone, locale: 'en-GB' } },
	time: { minUnit: 'day' as const, displayFormats: { day: 'd LLL', week: 'd LLL', month: 'LLL yyyy' } },
	ticks: { color: ink('faint-ink'), font: chartFont, maxRotation: 0, autoSkipPadding: 24 },
	grid: { color: ink('rule') }
});

/** A ribbon of two lines with what lies between filled, and no points. */
export const ribbon = (
	points: { x: number; low: number; high: number }[],
	colour: string,
	order: number
): object[] =>
	['low', 'high'].map((edge, i) => ({
		type: 'line',
		data: points.map((p) => ({ x: p.x, y: p[edge as 'low' | 'high'] })),
		borderWidth: 0,
		pointRadius: 0,
		pointHitRadius: 0,
		backgroundColor: colour,
		fill: i === 1 ? '-1' : false,
		order
	}));
