<script lang="ts">
	/** What the tank takes a day, beside what is dosed a day. */
	import type { Chart, ChartConfiguration } from 'chart.js';
	import { onMount } from 'svelte';
	import { COVERAGE_95 } from '$core/methods';
	import { formatUnit } from '$core/quantities';
	import type { TrendResult } from '$core/trend';
	import { chartFont, ink, ribbon, timeAxis } from './ink';

	let { trend, timeZone, title }: { trend: TrendResult; timeZone: string; title: string } = $props();

	let canvas: HTMLCanvasElement;
	let chart: Chart | undefined;
	onMount(() => {
		const night = new MutationObserver(() => void draw());
		night.observe(document.documentElement, { attributeFilter: ['class'] });
		return () => {
			night.disconnect();
			chart?.destroy();
		};
	});
	$effect(() => void draw(trend));

	let turn = 0;
	async function draw(..._dependencies: unknown[]) {
		const mine = ++turn;
		const { Chart } = await import('./chart-parts');
		if (mine !== turn || !canvas) return;
		chart?.destroy();
		const path = trend.path.map((p) => ({ ...p, x: Date.parse(p.at) }));
		chart = new Chart(canvas, {
			type: 'line',
			data: {
				datasets: [
					{
						data: path.map((p) => ({ x: p.x, y: p.usePerDay })),
						borderColor: ink('plum'),
						borderWidth: 1.5,
						pointRadius: 0,
						order: 1
					},
					{
						data: path.map((p) => ({ x: p.x, y: p.dosingPerDay })),
						borderColor: ink('saffron'),
						borderWidth: 2,
						stepped: 'before',
						pointRadius: 0,
						order: 1
					},
					...ribbon(
						path.map((p) => ({
							x: p.x,
							low: p.usePerDay - COVERAGE_95 * p.useSd,
							high: p.usePerDay + COVERAGE_95 * p.useSd
						})),
						`${ink('liquid')}44`,
						3
					)
				]
			},
			options: {
				animation: false,
				maintainAspectRatio: false,
				scales: {
					x: timeAxis(timeZone),
					y: {
						title: {
							display: true,
							text: `${formatUnit(trend.unit)} a day`,
							color: ink('faint-ink'),
							font: chartFont
						},
						ticks: { color: ink('faint-ink'), font: chartFont },
						grid: { color: ink('rule') }
					}
				},
				plugins: { tooltip: { enabled: false }, zoom: {} }
			}
		} as unknown as ChartConfiguration);
	}
</script>

<div class="relative h-full w-full" role="img" aria-label="{title}: used and dosed a day">
	<canvas bind:this={canvas}></canvas>
</div>
