<script lang="ts">
	/** All parameters small, on one time axis, with one cursor through all of them. */
	import { formatUnit } from '$core/quantities';
	import { figures, parameterFor } from '$lib/ui/habits';
	import { shownLevel } from '$lib/ui/wording';
	import { COVERAGE_95 } from '$core/statistics';
	import type { Band } from '$core/targets';
	import type { LevelPoint } from '$lib/api/trends';
	import { dateAndTime } from '$lib/ui/when';
	import { drawn } from './drawn';
	import { bandBox, ink, ribbon } from './ink';

	interface Props {
		/** In the order in which they are shown; without a way while its model is at work. */
		lines: { parameter: string; way: LevelPoint[] | undefined }[];
		/** The span of time of all of them, ms. */
		from: number;
		to: number;
		bands: Record<string, Band>;
		timeZone: string;
		system: string;
	}
	let { lines, from, to, bands, timeZone, system }: Props = $props();

	/** The moment under the pointer or chosen by keys, as a share of the span. */
	let cursor: number | undefined = $state();
	const moment = $derived(cursor === undefined ? undefined : from + cursor * (to - from));

	function configuration(parameter: string, way: LevelPoint[]) {
		const band = bands[parameter];
		const points = way.map((p) => ({ ...p, x: p.at }));
		return {
			type: 'line',
			data: {
				datasets: [
					{
						data: points.map((p) => ({ x: p.x, y: p.mean })),
						borderColor: ink('plum'),
						borderWidth: 1.5,
						pointRadius: 0
					},
					...ribbon(
						points.map((p) => ({
							x: p.x,
							low: p.mean - COVERAGE_95 * p.sd,
							high: p.mean + COVERAGE_95 * p.sd
						})),
						`${ink('liquid')}55`,
						3
					)
				]
			},
			options: {
				animation: false,
				maintainAspectRatio: false,
				layout: { padding: 0 },
				scales: {
					x: { type: 'time', display: false, min: from, max: to },
					y: { display: false, grace: '5%' }
				},
				plugins: {
					tooltip: { enabled: false },
					zoom: {},
					annotation: {
						annotations: band
							? {
									band: bandBox(band)
								}
							: {}
					}
				}
			}
		};
	}

	/** The estimate of a parameter at the cursor, or its newest. */
	function valueAt(way: LevelPoint[] = []): LevelPoint | undefined {
		if (moment === undefined) return way.at(-1);
		const after = way.findIndex((p) => p.at >= moment);
		return after === 0 && way[0]!.at > moment ? undefined : way[after];
	}
	function point(event: PointerEvent) {
		const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
		cursor = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
	}
	function key(event: KeyboardEvent) {
		const by = { ArrowLeft: -0.01, ArrowRight: 0.01 }[event.key];
		if (by === undefined) return;
		event.preventDefault();
		cursor = Math.min(1, Math.max(0, (cursor ?? 1) + by));
	}
</script>

<p class="text-sm text-faint" aria-live="polite">
	{moment === undefined
		? 'Now. Point at a day, or use the arrow keys on a line.'
		: dateAndTime(new Date(moment).toISOString(), timeZone)}
</p>
<ul class="mt-1 divide-y border-y" data-testid="small">
	{#each lines as line (line.parameter)}
		{@const parameter = parameterFor(line.parameter)}
		{@const value = valueAt(line.way)}
		<li class="row">
			<a
				class="inline-flex min-h-11 min-w-11 items-center font-medium hover:underline"
				href="/s/{system}/trends?of={line.parameter}">{parameter?.title ?? line.parameter}</a
			>
			<div
				class="plot"
				role="slider"
				tabindex="0"
				aria-label="{parameter?.title} over time"
				aria-valuemin={from}
				aria-valuemax={to}
				aria-valuenow={moment ?? to}
				aria-valuetext={value ? `${figures(value.mean)} ${parameter?.unit ?? ''}` : 'not measured yet'}
				onpointermove={point}
				onpointerleave={() => (cursor = undefined)}
				onkeydown={key}
			>
				{#if line.way}
					{@const way = line.way}
					<canvas {@attach drawn(() => configuration(line.parameter, way))}></canvas>
				{:else}<span class="text-sm text-faint">working it out…</span>{/if}
				{#if cursor !== undefined}<span class="cursor" style:left="{100 * cursor}%"></span>{/if}
			</div>
			<span class="figure text-end">
				{#if value}
					{@const shown = shownLevel(value.mean, COVERAGE_95 * value.sd)}
					{shown.value}
					<span class="text-sm text-faint">{shown.error} {formatUnit(parameter?.unit ?? '')}</span>
				{:else}<span class="text-faint">–</span>{/if}
			</span>
		</li>
	{/each}
</ul>

<style>
	.row {
		display: grid;
		grid-template-columns: 7rem minmax(0, 1fr) 12rem;
		gap: 0.75rem;
		align-items: center;
		padding-block: 0.25rem;
	}
	.plot {
		position: relative;
		height: 3.4rem;
	}
	.cursor {
		position: absolute;
		inset-block: 0;
		border-left: 2px solid var(--brick);
		pointer-events: none;
	}
	@media (max-width: 48rem) {
		.row {
			grid-template-columns: 1fr auto;
		}
		.plot {
			grid-column: 1 / 3;
			grid-row: 2;
		}
	}
</style>
