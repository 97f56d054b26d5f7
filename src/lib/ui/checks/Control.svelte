<script lang="ts">
	/** Checks of a kit in order of time: where the next is expected, warning and action lines, and each check. */
	import type { ReferenceResult } from '$core/quality';
	import { drawn } from '$lib/ui/charts/drawn';
	import { chartFont, ink, timeAxis } from '$lib/ui/charts/ink';
	import { figures } from '$lib/ui/habits';
	import { valueFor } from '$lib/ui/mine';

	interface Props {
		parameter: string;
		name: string;
		control: NonNullable<ReferenceResult['control']>;
		timeZone: string;
	}
	let { parameter, name, control, timeZone }: Props = $props();

	const mine = (value: number) => valueFor(parameter, value);
	const points = $derived(
		control.points.map((p) => ({
			x: Date.parse(p.at),
			y: mine(p.value),
			rule: p.rule
		}))
	);
	const line = (value: number, colour: string, dash: number[] = []) => ({
		type: 'line',
		yMin: mine(value),
		yMax: mine(value),
		borderColor: ink(colour),
		borderWidth: 1.5,
		borderDash: dash
	});
	const configuration = () => {
		const { centre, sigma, warning, action } = control;
		const reach = 1.25 * Math.max(3 * sigma, ...control.points.map((p) => Math.abs(p.value - centre)));
		const limits = [mine(centre - reach), mine(centre + reach)].sort((a, b) => a - b);
		return {
			type: 'line',
			data: {
				datasets: [
					{
						data: points,
						borderColor: ink('plum'),
						borderWidth: 1,
						pointRadius: points.map((p) => (p.rule ? 6 : 4)),
						pointStyle: points.map((p) => (p.rule ? 'triangle' : 'circle')),
						pointBackgroundColor: points.map((p) => ink(p.rule ? 'brick' : 'plum'))
					}
				]
			},
			options: {
				animation: false,
				maintainAspectRatio: false,
				layout: { padding: { top: 4, right: 8 } },
				scales: {
					x: { ...timeAxis(timeZone), offset: true },
					y: {
						min: limits[0],
						max: limits[1],
						grid: { display: false },
						ticks: {
							color: ink('faint-ink'),
							font: chartFont,
							includeBounds: false,
							callback: (v: number | string) => figures(Number(v), 4)
						}
					}
				},
				plugins: {
					tooltip: { enabled: false },
					zoom: {},
					annotation: {
						annotations: {
							centre: line(centre, 'moss'),
							low: line(warning[0], 'saffron', [4, 4]),
							high: line(warning[1], 'saffron', [4, 4]),
							lowest: line(action[0], 'brick'),
							highest: line(action[1], 'brick')
						}
					}
				}
			}
		};
	};
</script>

<div
	class="h-44"
	role="img"
	aria-label="Checks of {name}: {points
		.map((p) => figures(p.y, 4))
		.join(', ')}; its next is expected at {figures(mine(control.centre), 4)}"
>
	<canvas {@attach drawn(configuration)}></canvas>
</div>
<p class="text-sm text-faint">
	Moss: where its next check is expected, by what the water holds and by the checks so far · saffron: 95 in
	100 lie within · brick: nearly all do. ▲ a check that a rule names.
</p>
