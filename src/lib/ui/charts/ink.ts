import { DAY } from '$core/base';
import { language, weekStart } from '$lib/ui/habits';
import { dayShort, monthOf } from '$lib/ui/when';

/** Colours and letters of a chart, as the theme has them now. */
export const ink = (name: string): string =>
	getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

export const chartFont = { family: "'JetBrains Mono Variable', monospace", size: 12 };

/** A band behind what is drawn, as an annotation of Chart.js. */
export const bandBox = ({ lower, upper }: { lower: number; upper: number }) => ({
	type: 'box',
	yMin: lower,
	yMax: upper,
	backgroundColor: `${ink('moss-wash')}b0`,
	borderWidth: 0,
	drawTime: 'beforeDatasetsDraw'
});

/** Marks by which kits are told apart, in the order in which they came. */
export const SHAPES = ['circle', 'rect', 'triangle', 'rectRot', 'star', 'crossRot'] as const;

/** A longer span than this is told in months, ms. */
const MONTHS = 300 * DAY;

/** Time along the bottom, on the tank's clock. */
export const timeAxis = (timeZone: string) => ({
	type: 'time' as const,
	adapters: { date: { zone: timeZone, locale: language() } },
	time: { minUnit: 'day' as const, isoWeekday: weekStart() },
	ticks: {
		color: ink('faint-ink'),
		font: chartFont,
		maxRotation: 0,
		autoSkipPadding: 24,
		callback(this: { min: number; max: number }, at: number | string) {
			const moment = new Date(Number(at));
			return this.max - this.min > MONTHS
				? monthOf(moment, timeZone)
				: dayShort(moment.toISOString(), timeZone);
		}
	},
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
