<script lang="ts">
	/** Two kits on the same water: each pair as a point beside the line on which both say the same. */
	import { drawn } from '$lib/ui/charts/drawn';
	import { chartFont, ink } from '$lib/ui/charts/ink';
	import { figures } from '$lib/ui/habits';
	import { valueFor } from '$lib/ui/mine';

	interface Props {
		parameter: string;
		names: [string, string];
		points: { a: number; b: number }[];
	}
	let { parameter, names, points }: Props = $props();

	const mine = $derived(points.map((p) => ({ x: valueFor(parameter, p.a), y: valueFor(parameter, p.b) })));
	const span = $derived.by(() => {
		const all = mine.flatMap((p) => [p.x, p.y]);
		const [low, high] = [Math.min(...all), Math.max(...all)];
		const room = 0.15 * (high - low) || 0.05 * Math.abs(high) || 1;
		return [low - room, high + room];
	});
	const axis = (title: string) => ({
		type: 'linear',
		min: span[0],
		max: span[1],
		title: { display: true, text: title, color: ink('faint-ink'), font: chartFont },
		grid: { color: ink('rule') },
		ticks: {
			color: ink('faint-ink'),
			font: chartFont,
			includeBounds: false,
			callback: (v: number | string) => figures(Number(v), 3)
		}
	});
	const configuration = () => ({
		type: 'scatter',
		data: { datasets: [{ data: mine, backgroundColor: ink('plum'), pointRadius: 4 }] },
		options: {
			animation: false,
			maintainAspectRatio: false,
			scales: { x: axis(names[0]), y: axis(names[1]) },
			plugins: {
				tooltip: { enabled: false },
				zoom: {},
				annotation: {
					annotations: {
						same: {
							type: 'line',
							xMin: span[0],
							yMin: span[0],
							xMax: span[1],
							yMax: span[1],
							borderColor: ink('moss'),
							borderWidth: 1.5
						}
					}
				}
			}
		}
	});
</script>

<div
	class="h-64 max-w-md"
	role="img"
	aria-label="{names[0]} and {names[1]} on the same water: {mine
		.map((p) => `${figures(p.x)} and ${figures(p.y)}`)
		.join('; ')}"
>
	<canvas {@attach drawn(configuration)}></canvas>
</div>
<p class="text-sm text-faint">Each point is one water by both. On the moss line both say the same.</p>
