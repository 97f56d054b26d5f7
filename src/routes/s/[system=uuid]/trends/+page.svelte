<script lang="ts">
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Table from 'flowbite-svelte/Table.svelte';
	import TableBody from 'flowbite-svelte/TableBody.svelte';
	import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
	import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
	import TableHead from 'flowbite-svelte/TableHead.svelte';
	import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
	import { page } from '$app/state';
	import { COVERAGE_95 } from '$core/methods';
	import { PARAMETERS, formatMeasured, formatUnit, parameterOf } from '$core/quantities';
	import { markInWords } from '$lib/ui/bench/results';
	import { seenInWords } from '$lib/ui/instruments/answered';
	import Small from '$lib/ui/charts/Small.svelte';
	import TrendChart from '$lib/ui/charts/TrendChart.svelte';
	import UseChart from '$lib/ui/charts/UseChart.svelte';
	import Versus from '$lib/ui/charts/Versus.svelte';
	import Did from '$lib/ui/trends/Did.svelte';
	import { post } from '$lib/ui/outbox.svelte';
	import { dateAndTime, dayInWords } from '$lib/ui/when';
	import { headingInWords, inWords } from '$lib/ui/wording';

	let { data } = $props();
	const parameter = $derived(parameterOf(data.of)!);
	const newest = $derived([...data.readings].reverse());
	/** Rows drawn at once; more on request. */
	const PAGE = 50;
	let rows = $state(PAGE);

	function takeOut(id: string, about: string) {
		post({
			id: uuid(),
			path: `/api/v1/readings/${id}/void`,
			method: 'PUT',
			body: { reason: 'voided on the trends page' },
			about: `voiding ${about}`
		});
		voided = { id, about };
	}
	let chart: ReturnType<typeof TrendChart> | undefined = $state();
	let span: { from: number; to: number } | undefined = $state();
	const SIGNS: Record<string, string> = {
		circle: '●',
		rect: '■',
		triangle: '▲',
		rectRot: '◆',
		star: '✳',
		crossRot: '✕'
	};
	const SHAPES = Object.keys(SIGNS);
	/** Kits in the order in which they came, with the mark each has in the picture. */
	const methods = $derived(
		[...new Map(data.readings.map((r) => [r.methodId, r.methodName])).entries()].map(([id, name], i) => ({
			id,
			name,
			shape: SHAPES[i % SHAPES.length]!
		}))
	);
	const stats = $derived.by(() => {
		if (!span) return undefined;
		const { from, to } = span;
		const inside = data.readings.filter(
			(r) => r.value !== null && Date.parse(r.takenAt) >= from && Date.parse(r.takenAt) <= to
		);
		const values = inside.map((r) => r.value!);
		if (!values.length) return { count: 0, mean: '–', scatter: '–', first: '–', last: '–' };
		const mean = values.reduce((s, v) => s + v, 0) / values.length;
		const sd = Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / Math.max(1, values.length - 1));
		const plain = (v: number) => String(Number(v.toPrecision(3)));
		return {
			count: values.length,
			mean: plain(mean),
			scatter: plain(sd),
			first: plain(values[0]!),
			last: plain(values.at(-1)!)
		};
	});
	/** What new water had at the last change that said so. */
	const usualNew = $derived.by(() => {
		for (const e of [...data.events].reverse())
			if (e.event.kind === 'water-change' && Object.keys(e.event.newWater).length) return e.event.newWater;
		return {};
	});
	const WEEK = 7 * 86_400_000;
	/** What was done to this parameter, newest first, with the level a week before and a week after. */
	const changes = $derived.by(() => {
		const path = data.trend?.path ?? [];
		const level = (at: number) => {
			const there = path.find((p) => Date.parse(p.at) >= at) ?? path.at(-1);
			return there ? String(Number(there.mean.toPrecision(3))) : '–';
		};
		return [...data.events].reverse().flatMap((e) => {
			const { event } = e;
			const words =
				event.kind === 'water-change'
					? `water change of ${Math.round(1000 * event.fraction) / 10} %`
					: event.kind === 'dosing' && event.parameter === data.of
						? `dosing ${event.perDay} a day`
						: event.kind === 'dose' && event.parameter === data.of
							? `dose of ${event.change}${event.supplement ? `, ${event.supplement}` : ''}`
							: 'text' in event
								? `${event.kind}: ${event.text}`
								: undefined;
			const at = Date.parse(e.at);
			return words ? [{ id: e.id, at: e.at, words, before: level(at - WEEK), after: level(at + WEEK) }] : [];
		});
	});
	function voidEvent(id: string, about: string) {
		post({
			id: uuid(),
			path: `/api/v1/events/${id}/void`,
			method: 'PUT',
			body: { reason: 'voided on the trends page' },
			about: `voiding ${about}`
		});
	}
	function download(name: string, href: string) {
		const link = document.createElement('a');
		link.href = href;
		link.download = name;
		link.click();
	}
	const fileName = (ending: string) =>
		`${data.system.name} ${data.of}.${ending}`.replaceAll(/\s+/g, '-').toLowerCase();
	function asPicture() {
		const picture = chart?.picture();
		if (picture) download(fileName('png'), picture);
	}
	/** The numbers as a sheet: one reading a row, units in the header. */
	function asData() {
		const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
		const rows = data.readings.map((r) =>
			[
				r.takenAt,
				r.qualifier,
				r.value ?? '',
				r.interval[0] ?? '',
				r.interval[1] ?? '',
				quoted(r.methodName)
			].join(',')
		);
		const header = `time (UTC),bound,value (${parameter.unit}),low,high,method`;
		const href = URL.createObjectURL(new Blob([[header, ...rows].join('\r\n')], { type: 'text/csv' }));
		download(fileName('csv'), href);
		setTimeout(() => URL.revokeObjectURL(href), 10_000);
	}
	let voided: { id: string; about: string } | undefined = $state();
	function putBack() {
		if (!voided) return;
		post({
			id: uuid(),
			path: `/api/v1/readings/${voided.id}/void`,
			method: 'DELETE',
			body: {},
			about: `restoring ${voided.about}`
		});
		voided = undefined;
	}
</script>

<svelte:head><title>{data.system.name} · {data.all ? 'Trends' : parameter.title} · Tevrik</title></svelte:head
>

<div class="flex flex-wrap items-center gap-x-4 gap-y-1">
	<h1>{data.all ? 'All on one axis' : parameter.title}</h1>
	<nav aria-label="Parameter" class="flex flex-wrap gap-1">
		{#each PARAMETERS.filter((p) => data.measured.includes(p.id) || (p.id === data.of && !data.all)) as p (p.id)}
			<a
				href="?of={p.id}"
				aria-current={p.id === data.of && !data.all ? 'true' : undefined}
				class="flex min-h-11 items-center rounded-lg px-2.5 text-faint hover:text-ink aria-[current]:bg-plum-wash aria-[current]:font-semibold aria-[current]:text-plum"
				>{p.title}</a
			>
		{/each}
		<a
			href="?view=all"
			aria-current={data.all ? 'true' : undefined}
			class="flex min-h-11 items-center rounded-lg px-2.5 text-faint hover:text-ink aria-[current]:bg-plum-wash aria-[current]:font-semibold aria-[current]:text-plum"
			>All</a
		>
	</nav>
</div>

{#if data.all}
	{#if data.lines.length}
		<Small lines={data.lines} bands={data.bands} timeZone={data.system.timeZone} system={data.system.id} />
		<Versus lines={data.lines} />
	{:else}
		<p class="mt-6">Nothing is measured yet; each parameter gets a line here.</p>
	{/if}
{:else if data.readings.length === 0}
	<div class="mt-6 max-w-prose">
		<p>
			No {parameter.title.toLowerCase()} yet. Each test becomes a point here with its error, against your band,
			so that you see a drift before it matters.
		</p>
		<Button class="mt-4 min-h-11" href="/s/{data.system.id}/bench/one?of={parameter.id}">
			Measure {parameter.title.toLowerCase()}
		</Button>
	</div>
{:else}
	{#if data.trend}
		{@const t = data.trend}
		{@const shown = formatMeasured(t.now.value, COVERAGE_95 * t.now.standardDeviation)}
		<p class="flex flex-wrap items-baseline gap-x-4" data-testid="outlook">
			<span class="figure text-3xl font-semibold"
				>{shown.value}
				<span class="text-base font-normal text-faint">± {shown.error} {formatUnit(t.unit)} now</span></span
			>
			<span>{headingInWords(t, data.now, data.system.timeZone)}</span>
			<span class="text-sm text-faint">
				{#if t.dosingPerDay}
					uses {t.usePerDay.value.toPrecision(2)} ± {(
						COVERAGE_95 * t.usePerDay.standardDeviation
					).toPrecision(1)} a day, dosed {t.dosingPerDay}
				{/if}
				· next look {dayInWords(t.nextTest, data.now, data.system.timeZone)}
			</span>
		</p>
	{/if}
	<div class="mt-1 h-[24rem] max-md:h-72">
		<TrendChart
			bind:this={chart}
			{parameter}
			readings={data.readings}
			voided={data.voided}
			band={data.bands[parameter.id]}
			trend={data.trend}
			events={data.events}
			timeZone={data.system.timeZone}
			onspan={(s) => (span = s)}
		/>
	</div>
	<div class="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-faint">
		{#if span && stats}
			<p class="text-ink" data-testid="span" role="status">
				{dateAndTime(new Date(span.from).toISOString(), data.system.timeZone)} to {dateAndTime(
					new Date(span.to).toISOString(),
					data.system.timeZone
				)}: {stats.count} readings, mean <span class="figure">{stats.mean}</span>, scatter
				<span class="figure">{stats.scatter}</span>, from <span class="figure">{stats.first}</span> to
				<span class="figure">{stats.last}</span>
			</p>
			<button class="tool" onclick={() => chart?.reset()}>The whole again</button>
		{:else}
			<p>
				Bars and ribbon are 95 %; times are the tank’s. Drag over a span to look at it.
				{#each methods as m (m.id)}<span class="ms-2 whitespace-nowrap">{SIGNS[m.shape]} {m.name}</span
					>{/each}
			</p>
		{/if}
		<span class="ms-auto flex gap-1">
			<a
				class="tool"
				href={page.url.searchParams.has('voided') ? `?of=${data.of}` : `?of=${data.of}&voided`}
				data-sveltekit-noscroll>{page.url.searchParams.has('voided') ? 'Hide voided' : 'Show voided'}</a
			>
			<button class="tool" onclick={asPicture}>Picture</button>
			<button class="tool" onclick={asData}>Data</button>
		</span>
	</div>
	<div class="mt-2">
		<Did {parameter} system={data.system} now={data.now} dosing={data.trend?.dosingPerDay ?? 0} {usualNew} />
	</div>
	{#if data.trend && data.trend.path.some((p) => p.dosingPerDay !== 0)}
		<h2 class="mt-3">Used and dosed a day</h2>
		<p class="text-sm text-faint">plum: used, with its 95 % ribbon · saffron: dosed</p>
		<div class="h-44">
			<UseChart trend={data.trend} timeZone={data.system.timeZone} title={parameter.title} />
		</div>
	{/if}
	{#if changes.length}
		<details class="mt-3">
			<summary class="min-h-11 cursor-pointer py-2"
				>What was done, and the week before and after ({changes.length})</summary
			>
			<ul class="divide-y text-sm">
				{#each changes.slice(0, 30) as c (c.id)}
					<li class="flex flex-wrap items-center gap-x-4 py-1">
						<span class="text-faint">{dateAndTime(c.at, data.system.timeZone)}</span>
						<span>{c.words}</span>
						<span class="figure">{c.before} → {c.after}</span>
						<button
							class="ms-auto min-h-11 px-2 text-brick"
							aria-label="Void {c.words} of {dateAndTime(c.at, data.system.timeZone)}"
							onclick={() => voidEvent(c.id, c.words)}>Void</button
						>
					</li>
				{/each}
			</ul>
		</details>
	{/if}
	<div class="mt-1 flex items-center gap-3 text-sm" aria-live="polite">
		{#if voided}
			<span>Voided: {voided.about}</span>
			<Button size="sm" color="alternative" class="min-h-11" onclick={putBack}>Undo</Button>
		{/if}
	</div>
	<Table class="text-ink" classes={{ div: 'overflow-x-auto relative' }}>
		<caption class="sr-only">{parameter.title} readings, newest first</caption>
		<TableHead class="bg-transparent text-faint normal-case dark:bg-transparent dark:text-faint">
			<TableHeadCell>When</TableHeadCell>
			<TableHeadCell>Value</TableHeadCell>
			<TableHeadCell>Seen</TableHeadCell>
			<TableHeadCell>Method</TableHeadCell>
			<TableHeadCell><span class="sr-only">Change</span></TableHeadCell>
		</TableHead>
		<TableBody>
			{#each newest.slice(0, rows) as r (r.id)}
				<TableBodyRow class="bg-transparent border-rule dark:bg-transparent dark:border-rule">
					<TableBodyCell class="py-2 font-normal text-ink dark:text-ink">
						{dateAndTime(r.takenAt, data.system.timeZone)}
					</TableBodyCell>
					<TableBodyCell class="figure py-2 text-ink dark:text-ink">{inWords(r, r.unit)}</TableBodyCell>
					<TableBodyCell class="figure py-2 font-normal text-faint dark:text-faint">
						{seenInWords(r.raw)}
					</TableBodyCell>
					<TableBodyCell class="py-2 font-normal text-faint dark:text-faint">
						{r.methodName}
						{#each r.marks ?? [] as mark, i (i)}<span class="block text-sm text-saffron"
								>▲ {markInWords(mark)}</span
							>{/each}
					</TableBodyCell>
					<TableBodyCell class="py-1 text-end">
						<button
							type="button"
							class="min-h-11 rounded-lg px-3 text-sm text-brick hover:bg-brick-wash"
							aria-label="Void {inWords(r, r.unit)} of {dateAndTime(r.takenAt, data.system.timeZone)}"
							onclick={() => takeOut(r.id, inWords(r, r.unit))}>Void</button
						>
					</TableBodyCell>
				</TableBodyRow>
			{/each}
		</TableBody>
	</Table>
	{#if newest.length > rows}
		<Button color="alternative" class="mt-3 min-h-11" onclick={() => (rows += 4 * PAGE)}>
			Show more, {newest.length - rows} left
		</Button>
	{/if}
{/if}

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
