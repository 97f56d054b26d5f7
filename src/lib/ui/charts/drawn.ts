import type { Chart, ChartConfiguration } from 'chart.js';
import type { Attachment } from 'svelte/attachments';
import { untrack } from 'svelte';

/**
 * Draws a chart on the canvas it is attached to, again whenever what `configuration` reads has changed or the theme turns, and
 * takes it away with the canvas. `ondrawn` gets the chart.
 */
export const drawn =
	(configuration: () => object, ondrawn?: (chart: Chart) => void): Attachment<HTMLCanvasElement> =>
	(canvas) => {
		let chart: Chart | undefined;
		let gone = false;
		const draw = async (wanted: object) => {
			const { Chart } = await import('./chart-parts');
			// A turn for each: several at once would hold a slow device for half a second.
			await new Promise((turn) => setTimeout(turn));
			if (gone) return;
			chart?.destroy();
			chart = new Chart(canvas, wanted as ChartConfiguration);
			// Tests and pictures wait for this.
			canvas.dataset['drawn'] = '';
			ondrawn?.(chart);
		};
		void draw(configuration());
		const theme = new MutationObserver(() => void draw(untrack(configuration)));
		theme.observe(document.documentElement, { attributeFilter: ['class'] });
		return () => {
			gone = true;
			theme.disconnect();
			chart?.destroy();
		};
	};
