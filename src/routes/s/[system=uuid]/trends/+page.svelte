<script lang="ts">
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Table from 'flowbite-svelte/Table.svelte';
	import TableBody from 'flowbite-svelte/TableBody.svelte';
	import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
	import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
	import TableHead from 'flowbite-svelte/TableHead.svelte';
	import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
	import { PARAMETERS, formatUnit, parameterOf } from '$core/quantities';
	import { markInWords } from '$lib/ui/bench/results';
	import { seenInWords } from '$lib/ui/instruments/answered';
	import TrendChart from '$lib/ui/charts/TrendChart.svelte';
	import { post } from '$lib/ui/outbox.svelte';
	import { dateAndTime } from '$lib/ui/when';
	import { inWords, shownValue } from '$lib/ui/wording';

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

<svelte:head><title>{data.system.name} · {parameter.title} · Tevrik</title></svelte:head>

<div class="flex flex-wrap items-center gap-x-4 gap-y-1">
	<h1>{parameter.title}</h1>
	<nav aria-label="Parameter" class="flex flex-wrap gap-1">
		{#each PARAMETERS.filter((p) => data.measured.includes(p.id) || p.id === data.of) as p (p.id)}
			<a
				href="?of={p.id}"
				aria-current={p.id === data.of ? 'true' : undefined}
				class="flex min-h-11 items-center rounded-lg px-3 text-faint hover:text-ink aria-[current]:bg-plum-wash aria-[current]:font-semibold aria-[current]:text-plum"
				>{p.title}</a
			>
		{/each}
	</nav>
	{#if newest[0]}
		<p class="figure ms-auto text-2xl font-semibold">
			{shownValue(newest[0]).value}
			<span class="text-base font-normal text-faint"
				>{shownValue(newest[0]).error} {formatUnit(newest[0].unit)}</span
			>
		</p>
	{/if}
</div>

{#if data.readings.length === 0}
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
	<div class="mt-2 h-[26rem] max-md:h-72">
		<TrendChart
			{parameter}
			readings={data.readings}
			band={data.bands[parameter.id]}
			timeZone={data.system.timeZone}
		/>
	</div>
	<p class="mt-1 text-sm text-faint">
		Bars are 95 % intervals. Times are the tank’s, {data.system.timeZone}.
	</p>
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
