<script lang="ts">
	/** One water beside another, or beside the sea: which differences are more than the errors of both. */
	import { goto } from '$app/navigation';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { formatUnit } from '$core/quantities';
	import { PARAMETERS } from '$core/catalogue';
	import { COVERAGE_95 } from '$core/statistics';
	import { figures, unitFor } from '$lib/ui/habits';
	import { changeFor, valueFor } from '$lib/ui/mine';
	import { daysAgo } from '$lib/ui/when';
	import { levelInWords } from '$lib/ui/words/adjust';
	import { besideInWords } from '$lib/ui/words/checks';
	import Title from '$lib/ui/shell/Title.svelte';
	import Sideways from '$lib/ui/shell/Sideways.svelte';

	let { data } = $props();
	const beside = $derived(data.beside);
	const SEA = '';
	const nameOf = (id: string | null) =>
		id === null ? 'sea water' : (beside.sources.find((s) => s.id === id)?.name ?? '');
	const rows = $derived(
		PARAMETERS.flatMap((p) => {
			const its = beside.result?.differences[p.id];
			return its ? [{ id: p.id, title: p.title, ...its }] : [];
		})
	);
	const to = (a: string, b: string) =>
		goto(`?${new URLSearchParams({ a, ...(b === SEA ? {} : { b }) })}`, { noScroll: true, keepFocus: true });
	const shown = (parameter: string, value: number) =>
		figures(valueFor(parameter, value), unitFor(parameter).startsWith('SG') ? 5 : 3);
</script>

<Title of="Waters" />
<p class="text-sm print:hidden"><a class="link" href="/s/{data.system.id}/shelf">Shelf</a></p>
<div class="flex flex-wrap items-center gap-3">
	<h1>Waters side by side</h1>
	<span class="flex-1"></span>
	<button class="link px-2 print:hidden" type="button" onclick={() => print()}>Print</button>
</div>
<p class="text-sm text-faint print:hidden">
	Another water, such as your tap or a new mix, is named in <a
		class="text-plum underline"
		href="/s/{data.system.id}/tank#waters">Tank</a
	>, and read at the bench.
</p>
<div class="mt-2 grid max-w-xl grid-cols-2 gap-3 print:hidden">
	<Label class="text-sm">
		This water
		<Select placeholder="" value={beside.a} onchange={(e) => to(e.currentTarget.value, beside.b ?? SEA)}>
			{#each beside.sources as s (s.id)}<option value={s.id} disabled={s.id === beside.b}>{s.name}</option
				>{/each}
		</Select>
	</Label>
	<Label class="text-sm">
		beside
		<Select placeholder="" value={beside.b ?? SEA} onchange={(e) => to(beside.a, e.currentTarget.value)}>
			<option value={SEA}>sea water</option>
			{#each beside.sources as s (s.id)}<option value={s.id} disabled={s.id === beside.a}>{s.name}</option
				>{/each}
		</Select>
	</Label>
</div>
{#if rows.length && beside.result}
	<p class="mt-3">
		{nameOf(beside.a)}{beside.readAt.a
			? `, read ${daysAgo(beside.readAt.a, data.now, data.system.timeZone)}`
			: ''}, beside {nameOf(beside.b)}{beside.readAt.b
			? `, read ${daysAgo(beside.readAt.b, data.now, data.system.timeZone)}`
			: ''}{beside.b === null
			? beside.result.assumed
				? ` of ${levelInWords('salinity', beside.result.salinity)}`
				: ` at its own salinity, ${levelInWords('salinity', beside.result.salinity)}: what is only thin is not short of anything`
			: ''}.
		{#if beside.b === null && beside.result.assumed}
			<span class="text-saffron"
				>◐ Its own salinity was not measured. Fresh water differs from the sea in everything; measure the
				salinity, or choose another water.</span
			>
		{/if}
	</p>
	<Sideways name="Differences" class="mt-2">
		<table class="w-full max-w-4xl text-sm" data-testid="beside">
			<caption class="sr-only">The levels of both waters, and by how much they differ</caption>
			<thead>
				<tr class="text-faint">
					<th class="py-1 text-start font-normal" scope="col">Level</th>
					<th class="py-1 ps-3 text-end font-normal" scope="col">{nameOf(beside.a)}</th>
					<th class="py-1 ps-3 text-end font-normal" scope="col">{nameOf(beside.b)}</th>
					<th class="py-1 ps-3 text-end font-normal" scope="col">Difference</th>
					<th class="py-1 ps-4 text-start font-normal" scope="col">What that says</th>
				</tr>
			</thead>
			<tbody>
				{#each rows as { id, title, a, b, value, standardUncertainty, chance } (id)}
					{@const mine = changeFor(id, value, a)}
					<tr class="border-t">
						<th class="py-2 text-start font-medium" scope="row"
							>{title} <span class="font-normal text-faint">{formatUnit(unitFor(id))}</span></th
						>
						<td class="figure py-2 ps-3 text-end">{shown(id, a)}</td>
						<td class="figure py-2 ps-3 text-end">{shown(id, b)}</td>
						<td class="figure py-2 ps-3 text-end"
							>{mine < 0 ? '−' : '+'}{figures(Math.abs(mine), 2)}
							<span class="text-faint"
								>± {figures(Math.abs(changeFor(id, COVERAGE_95 * standardUncertainty, a)), 2)}</span
							></td
						>
						<td class="py-2 ps-4">{besideInWords(mine, chance)}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</Sideways>
{:else}
	<p class="mt-4 max-w-prose">
		Nothing was read of {nameOf(beside.a)} that {nameOf(beside.b)} is known for. Measure the same levels of both:
		tap before and after the purifier, the new mix and what its bag says, your tank and the sea.
	</p>
{/if}
