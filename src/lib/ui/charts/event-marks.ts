import type { Chart, Plugin } from 'chart.js';
import { chartFont, ink } from './ink';

/** What was done at a moment: a line from top to bottom of a chart over time, with its words at one end. */
export interface EventMark {
	/** ms */
	at: number;
	words: string | undefined;
	colour: string;
	width: number;
	dash: number[];
	/** Its words stand at the foot, or at the top. */
	atFoot: boolean;
}

/** How far rows of words are apart, px, and how many there are: neighbours stand in rows of their own. */
const ROW = 16;
const ROWS = 3;
const SIZE = 10;
const PADDING = 2;

/**
 * Draws marks of events. A plugin of its own, since the annotations' resolves some forty options of each mark by itself, which took a third of the
 * time of a chart with a year of water changes.
 */
export const eventMarks = (marks: EventMark[]): Plugin => ({
	id: 'event-marks',
	afterDatasetsDraw(chart: Chart) {
		const { ctx, chartArea: area } = chart;
		const time = chart.scales['x'];
		if (!time) return;
		ctx.save();
		ctx.font = `${SIZE}px ${chartFont.family}`;
		ctx.textAlign = 'center';
		ctx.textBaseline = 'middle';
		let row = 0;
		for (const mark of marks) {
			if (mark.at < time.min || mark.at > time.max) continue;
			const x = time.getPixelForValue(mark.at);
			ctx.strokeStyle = mark.colour;
			ctx.lineWidth = mark.width;
			ctx.setLineDash(mark.dash);
			ctx.beginPath();
			ctx.moveTo(x, area.top);
			ctx.lineTo(x, area.bottom);
			ctx.stroke();
			if (mark.words === undefined) continue;
			const height = SIZE + 2 * PADDING;
			const width = ctx.measureText(mark.words).width + 2 * PADDING;
			const middle = mark.atFoot ? area.bottom - height / 2 - ROW * (row++ % ROWS) : area.top + height / 2;
			const from = Math.min(Math.max(x, area.left + width / 2), area.right - width / 2);
			ctx.fillStyle = ink('paper');
			ctx.fillRect(from - width / 2, middle - height / 2, width, height);
			ctx.fillStyle = mark.colour;
			ctx.fillText(mark.words, from, middle);
		}
		ctx.restore();
	}
});
