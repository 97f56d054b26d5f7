<script lang="ts">
	/** What the tank takes a day, beside what is dosed a day. */
	import { COVERAGE_95 } from '$core/statistics';
	import { formatUnit } from '$core/quantities';
	import { downsample } from '$core/series';
	import type { WayPoint } from '$lib/api/trends';
	import { drawn } from './drawn';
	import { chartFont, ink, ribbon, timeAxis } from './ink';

	let { way, unit, timeZone, title }: { way: WayPoint[]; unit: string; timeZone: string; title: string } =
		$props();

	function configuration() {
		const path = downsample(way).map((p) => ({ ...p, x: p.at }));
		return {
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
							text: `${formatUnit(unit)} a day`,
							color: ink('faint-ink'),
							font: chartFont
						},
						ticks: { color: ink('faint-ink'), font: chartFont },
						grid: { color: ink('rule') }
					}
				},
				plugins: { tooltip: { enabled: false }, zoom: {} }
			}
		};
	}
</script>

<div class="relative h-full w-full" role="img" aria-label="{title}: used and dosed a day">
	<canvas {@attach drawn(configuration)}></canvas>
</div>
