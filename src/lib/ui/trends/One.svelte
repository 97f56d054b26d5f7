<script lang="ts">
	/** One parameter: where it stands and heads, its picture, what is done about it, and its newest readings. */
	import { page } from '$app/state';
	import { COVERAGE_95 } from '$core/statistics';
	import { formatUnit } from '$core/quantities';
	import type { KnownParameter } from '$core/catalogue';
	import type { Band } from '$core/targets';
	import { inRows, type Columns } from '$lib/api/columns';
	import type { TankEvent } from '$lib/api/events';
	import type { Reading } from '$lib/api/readings';
	import type { ShelfSupplement } from '$lib/api/supplements';
	import type { Point, TrendInShort, WayPoint } from '$lib/api/trends';
	import TrendChart from '$lib/ui/charts/TrendChart.svelte';
	import UseChart from '$lib/ui/charts/UseChart.svelte';
	import { SHAPES } from '$lib/ui/charts/ink';
	import { dateAndTime, dayInWords } from '$lib/ui/when';
	import { decimalSign, figures } from '$lib/ui/habits';
	import { pointsFor, readingFor, trendFor, wayFor } from '$lib/ui/mine';
	import { assumesInWords, headingInWords, shownLevel } from '$lib/ui/wording';
	import { plural } from '$lib/ui/words/plural';
	import { learntInWords } from '$lib/ui/words/judgements';
	import Did from './Did.svelte';
	import Happened from './Happened.svelte';
	import Newest from './Newest.svelte';
	import { saveFile } from '$lib/ui/save-file';
	import { cellsOf, summaryOf } from './span';

	interface Props {
		parameter: KnownParameter;
		one: {
			methods: { id: string; name: string }[];
			points: Columns<Point>;
			trend: TrendInShort | undefined;
			way: Columns<WayPoint>;
			/** Readings before those the estimate rests on, and how many of them are drawn. */
			older: { of: number; drawn: number };
			/** What its neighbours' tests add. */
			learnt: { share: number; from: string[] } | undefined;
			newest: Columns<Reading>;
			voided: Reading[];
		};
		system: {
			id: string;
			name: string;
			netVolumeL: number;
			timeZone: string;
			waterChange: { water: Record<string, number> } | null;
		};
		bottles: Pick<ShelfSupplement, 'id' | 'profile'>[];
		band: Band | undefined;
		events: TankEvent[];
		now: string;
	}
	let { parameter, one, system, bottles, band, events, now }: Props = $props();

	const timeZone = $derived(system.timeZone);
	const points = $derived(pointsFor(parameter.id, inRows(one.points)));
	const way = $derived(wayFor(parameter.id, inRows(one.way)));
	const trend = $derived(one.trend && trendFor(parameter.id, one.trend));
	let chart: ReturnType<typeof TrendChart> | undefined = $state();
	let span: { from: number; to: number } | undefined = $state();
	const stats = $derived(span && summaryOf(points, span));
	const SIGNS: Record<(typeof SHAPES)[number], string> = {
		circle: '●',
		rect: '■',
		triangle: '▲',
		rectRot: '◆',
		star: '✳',
		crossRot: '✕'
	};
	/** Kits in the order in which they came, with the mark each has in the picture. */
	const methods = $derived(one.methods.map((m, i) => ({ ...m, sign: SIGNS[SHAPES[i % SHAPES.length]!] })));
	/** What new water had at the last change that said so, or has for plans. */
	const usualNew = $derived.by(() => {
		for (const e of [...events].reverse())
			if (e.event.kind === 'water-change' && Object.keys(e.event.newWater).length) return e.event.newWater;
		return system.waterChange?.water ?? {};
	});
	/** What a dosing pump gives of a bottle, by the last that was written. */
	const rates = $derived.by(() => {
		const last = events.findLast(
			(e) => e.event.kind === 'dosing' && e.event.parameter === parameter.id
		)?.event;
		return last?.kind === 'dosing' && last.supplementId && last.mlPerDay
			? { [last.supplementId]: last.mlPerDay }
			: {};
	});
	const fileName = (ending: string) =>
		`${system.name} ${parameter.id}.${ending}`.replaceAll(/\s+/g, '-').toLowerCase();
	function asPicture() {
		const picture = chart?.picture();
		if (picture) saveFile(fileName('png'), picture);
	}
	async function asData() {
		const { sheetOf } = await import('$core/formats');
		const sheet = sheetOf(cellsOf(points, one.methods, parameter.unit), { decimal: decimalSign() });
		const href = URL.createObjectURL(new Blob([sheet], { type: 'text/csv' }));
		saveFile(fileName('csv'), href);
		setTimeout(() => URL.revokeObjectURL(href), 10_000);
	}
</script>

{#if trend}
	{@const t = trend}
	{@const shown = shownLevel(t.now.value, COVERAGE_95 * t.now.standardDeviation)}
	<p class="flex flex-wrap items-baseline gap-x-4" data-testid="outlook">
		<span class="figure text-3xl font-semibold"
			>{shown.value}
			<span class="text-base font-normal text-faint">{shown.error} {formatUnit(t.unit)} now</span></span
		>
		<span>{headingInWords(parameter.id, t, now, timeZone)}</span>
		<span class="text-sm text-faint">
			{#if t.dosingPerDay}
				uses {figures(t.usePerDay.value, 2)} ± {figures(COVERAGE_95 * t.usePerDay.standardDeviation, 1)} a day,
				dosed
				{figures(t.dosingPerDay)} ·
			{/if}
			next look {dayInWords(t.nextTest, now, timeZone)}
			{#if t.assumes.length}
				<span data-testid="assumes">· forecast {assumesInWords(t)}</span>
			{/if}
			{#if one.learnt}
				<span data-testid="learnt">· {learntInWords(one.learnt)}</span>
			{/if}
		</span>
	</p>
{/if}
<div class="mt-1 h-[24rem] max-md:h-72">
	<TrendChart
		bind:this={chart}
		{parameter}
		{points}
		methods={one.methods}
		voided={one.voided.map(readingFor)}
		{band}
		{trend}
		{way}
		{events}
		{timeZone}
		onspan={(s) => (span = s)}
	/>
</div>
<div class="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-faint">
	{#if span && stats}
		<p class="text-ink" data-testid="span" role="status">
			{dateAndTime(new Date(span.from).toISOString(), timeZone)} to {dateAndTime(
				new Date(span.to).toISOString(),
				timeZone
			)}: {plural(stats.count, 'reading')}, mean <span class="figure">{stats.mean}</span>, scatter
			<span class="figure">{stats.scatter}</span>, from <span class="figure">{stats.first}</span> to
			<span class="figure">{stats.last}</span>
		</p>
		<button class="tool" onclick={() => chart?.reset()}>Show all of it</button>
	{:else}
		<p>
			Bars and ribbon are 95 %; times are the tank’s. Drag over a span to look at it.
			{#if one.older.of > one.older.drawn}
				Of the {figures(one.older.of)} oldest readings {figures(one.older.drawn)} are drawn: the least and the most
				of each time. The estimate rests on the newer ones; the export holds all.
			{/if}
			{#each methods as m (m.id)}<span class="ms-2 whitespace-nowrap">{m.sign} {m.name}</span>{/each}
		</p>
	{/if}
	<span class="ms-auto flex flex-wrap gap-1">
		<a
			class="tool"
			href={page.url.searchParams.has('voided') ? `?of=${parameter.id}` : `?of=${parameter.id}&voided`}
			data-sveltekit-noscroll>{page.url.searchParams.has('voided') ? 'Hide voided' : 'Show voided'}</a
		>
		<button class="tool" onclick={asPicture}>Picture</button>
		<button class="tool" onclick={asData}>Data</button>
	</span>
</div>
<div class="mt-2">
	<Did {parameter} {system} {now} dosing={trend?.dosingPerDay ?? 0} {usualNew} {bottles} {rates} />
</div>
{#if way.some((p) => p.dosingPerDay !== 0)}
	<h2 class="mt-3">Used and dosed a day</h2>
	<p class="text-sm text-faint">plum: used, with its 95 % ribbon · saffron: dosed</p>
	<div class="h-44">
		<UseChart {way} unit={parameter.unit} {timeZone} title={parameter.title} />
	</div>
{/if}
<Happened {events} {way} parameter={parameter.id} {timeZone} />
<Newest
	readings={inRows(one.newest).map(readingFor)}
	total={points.length}
	title={parameter.title}
	system={system.id}
	of={parameter.id}
	{timeZone}
/>

<style>
	.tool {
		display: inline-flex;
		align-items: center;
		min-height: 2.75rem;
		padding-inline: 0.6rem;
		border-radius: 0.5rem;
		color: var(--plum);
	}
	.tool:hover {
		background: var(--plum-wash);
	}
</style>
