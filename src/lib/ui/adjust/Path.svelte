<script lang="ts">
	/** The way of one level into its band, with what is not known of it. */
	import { bandBox, ink, ribbon, chartFont } from '$lib/ui/charts/ink';
	import { drawn } from '$lib/ui/charts/drawn';
	import { figures } from '$lib/ui/habits';
	import type { LevelView } from './plan-view';

	let { level, days }: { level: LevelView; days: number } = $props();

	const span = $derived.by(() => {
		const all = [...level.path.flatMap((p) => [p.low, p.high]), level.band.lower, level.band.upper];
		const [low, high] = [Math.min(...all), Math.max(...all)];
		const room = 0.08 * (high - low);
		return [Math.max(0, low - room), high + room];
	});
	const configuration = () => ({
		type: 'line',
		data: {
			datasets: [
				{
					data: level.path.map((p) => ({ x: p.day, y: p.mean })),
					borderColor: ink('plum'),
					borderWidth: 2,
					pointRadius: 0,
					order: 1
				},
				...ribbon(
					level.path.map((p) => ({ x: p.day, low: p.low, high: p.high })),
					`${ink('liquid')}55`,
					3
				)
			]
		},
		options: {
			animation: false,
			maintainAspectRatio: false,
			layout: { padding: { top: 4, right: 2 } },
			scales: {
				x: { type: 'linear', min: 0, max: days, display: false },
				y: {
					min: span[0],
					max: span[1],
					border: { display: false },
					grid: { display: false },
					// The limits of the band are what is looked for.
					afterBuildTicks: (axis: { ticks: { value: number }[] }) =>
						(axis.ticks = [level.band.lower, level.band.upper].map((value) => ({ value }))),
					ticks: {
						color: ink('faint-ink'),
						font: chartFont,
						autoSkip: false,
						callback: (value: number | string) => figures(Number(value), 5)
					}
				}
			},
			plugins: {
				tooltip: { enabled: false },
				zoom: {},
				annotation: {
					annotations: {
						band: bandBox(level.band)
					}
				}
			}
		}
	});
	const end = $derived(level.path.at(-1));
</script>

<div
	class="h-16"
	role="img"
	aria-label="{level.title}: from {figures(level.now.value)} now to {figures(
		end?.mean ?? level.now.value
	)} in {days} days, band {figures(level.band.lower)} to {figures(level.band.upper)}"
>
	<canvas {@attach drawn(configuration)}></canvas>
</div>
