<script lang="ts">
	/** Two parameters against each other, day by day, with the line on which they go in step. */
	import Select from 'flowbite-svelte/Select.svelte';
	import { formatUnit } from '$core/quantities';
	import { CALCIUM_PER_DKH, nameInSentence, parameterOf } from '$core/catalogue';
	import { figures, unitFor } from '$lib/ui/habits';
	import { changeFor } from '$lib/ui/mine';
	import { downsample } from '$core/series';
	import type { LevelPoint } from '$lib/api/trends';
	import { drawn } from './drawn';
	import { chartFont, ink } from './ink';

	let { ways }: { ways: Record<string, LevelPoint[]> } = $props();

	/** Pairs that are looked at together; where chemistry ties them, by how much of the second for one of the first. */
	const PAIRS = [
		{
			x: 'alkalinity',
			y: 'calcium',
			slope: CALCIUM_PER_DKH / changeFor('alkalinity', 1, 8),
			why: `the dashed line: ${figures(CALCIUM_PER_DKH / changeFor('alkalinity', 1, 8))} mg/L of calcium for each ${formatUnit(unitFor('alkalinity'))}`
		},
		{ x: 'nitrate', y: 'phosphate', slope: undefined, why: '' },
		{ x: 'salinity', y: 'calcium', slope: undefined, why: '' },
		{ x: 'magnesium', y: 'calcium', slope: undefined, why: '' }
	];
	const possible = $derived(PAIRS.filter((p) => [p.x, p.y].every((id) => ways[id]?.length)));
	let chosen = $state(0);
	const pair = $derived(possible[Math.min(chosen, possible.length - 1)]);

	function configuration(pair: (typeof PAIRS)[number]) {
		const [a = [], b = []] = [ways[pair.x], ways[pair.y]];
		/** The first has the steps, the second is what it was last before each of them. */
		let next = 0;
		const points = downsample(a).flatMap((p) => {
			while (next < b.length && b[next]!.at <= p.at) next++;
			return next === 0 ? [] : [{ x: p.mean, y: b[next - 1]!.mean }];
		});
		const mean = (values: number[]) => values.reduce((s, v) => s + v, 0) / Math.max(1, values.length);
		const [mx, my] = [mean(points.map((p) => p.x)), mean(points.map((p) => p.y))];
		const xs = points.map((p) => p.x);
		const axis = (id: string) => ({
			title: {
				display: true,
				text: `${parameterOf(id)?.title}, ${formatUnit(unitFor(id))}`,
				color: ink('faint-ink'),
				font: chartFont
			},
			ticks: { color: ink('faint-ink'), font: chartFont },
			grid: { color: ink('rule') }
		});
		return {
			type: 'line',
			data: {
				datasets: [
					{
						data: points,
						showLine: true,
						borderColor: ink('liquid'),
						borderWidth: 1,
						pointRadius: points.map((_, i) => (i === points.length - 1 ? 6 : 2)),
						pointBackgroundColor: ink('plum')
					},
					...(pair.slope === undefined
						? []
						: [
								{
									data: [Math.min(...xs), Math.max(...xs)].map((x) => ({
										x,
										y: my + pair.slope! * (x - mx)
									})),
									borderColor: ink('moss'),
									borderDash: [5, 4],
									borderWidth: 1.5,
									pointRadius: 0
								}
							])
				]
			},
			options: {
				animation: false,
				maintainAspectRatio: false,
				scales: { x: { type: 'linear', ...axis(pair.x) }, y: axis(pair.y) },
				plugins: { tooltip: { enabled: false }, zoom: {} }
			}
		};
	}
</script>

{#if pair}
	<section class="mt-6" aria-label="Two parameters against each other">
		<div class="flex flex-wrap items-center gap-3">
			<h2>Against each other</h2>
			<Select placeholder="" aria-label="Which two" bind:value={chosen}>
				{#each possible as p, i (p.x + p.y)}
					<option value={i}>{parameterOf(p.x)?.title} and {nameInSentence(p.y)}</option>
				{/each}
			</Select>
			<p class="text-sm text-faint">one point a day, the newest large{pair.why ? `; ${pair.why}` : ''}</p>
		</div>
		<div
			class="relative mt-1 h-80"
			role="img"
			aria-label="{parameterOf(pair.x)?.title} against {nameInSentence(pair.y)}"
		>
			<canvas {@attach drawn(() => configuration(pair))}></canvas>
		</div>
	</section>
{/if}
