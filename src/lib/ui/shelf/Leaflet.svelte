<script lang="ts">
	/** The lines of a leaflet's chart, typed or pasted into two columns: the scale is drawn while typing, what does not fit is named. */
	import { figures } from '$lib/ui/habits';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import { tick } from 'svelte';
	import { formatUnit } from '$core/quantities';
	import { askInWords } from '$lib/ui/words/chart';
	import ChartPicture from './ChartPicture.svelte';
	import {
		chartTyped,
		linesSaid,
		pasted,
		withRoom,
		type ChartTyped,
		type Instrument,
		type Row
	} from './chart-rows';

	interface Props extends Instrument {
		rows: Row[];
		/** What the table says, at every change. */
		ontyped: (rows: Row[], typed: ChartTyped) => void;
		/** An unusual chart stands so on the leaflet: its lines, as they were looked at. */
		oncheck: (lines: string, typed: ChartTyped) => void;
	}
	let { parameter, unit, reads, fillMl, readAs, checked, rows, ontyped, oncheck }: Props = $props();

	const shown = $derived(withRoom(rows));
	const instrument = $derived({ parameter, unit, reads, fillMl, readAs, checked });
	const typed = $derived(chartTyped(shown, instrument));
	const fit = $derived(typed.fit);
	/** What each mL used, or each drop, adds; less than nothing where the chart falls. */
	const slope = $derived.by(() => {
		if (!fit || fit.scale.kind !== 'table') return fit?.perMl ?? fit?.perDrop ?? 0;
		const [first, last] = [fit.scale.points[0]!, fit.scale.points.at(-1)!];
		const rise = (last[1] - first[1]) / (last[0] - first[0]);
		return fit.readAs === 'left' ? -rise : rise;
	});
	const suspects = $derived(new Map(fit?.suspects.map((s) => [typed.rowOf[s.index]!, s.expected])));
	const told = (next: Row[]) => ontyped(next, chartTyped(next, instrument));
	/** The keeper has looked: it stands so on the leaflet. */
	const check = () => oncheck(linesSaid(typed.points, fit?.asks ?? []), { ...typed, open: false });
	function set(at: number, part: Partial<Row>) {
		// Whoever writes a line has looked at it.
		doubtful = doubtful.filter((line) => line !== at + 1);
		told(withRoom(shown.map((row, i) => (i === at ? { ...row, sure: false, ...part } : row))));
	}

	let table: HTMLTableElement | undefined = $state();
	const cell = (at: number, column: 0 | 1) =>
		table?.querySelectorAll<HTMLInputElement>('tbody input')[2 * at + column];

	/** Enter goes to the next cell; on the empty line at the end it is the form's. */
	async function enter(event: KeyboardEvent, at: number, column: 0 | 1) {
		const row = shown[at]!;
		if (event.key !== 'Enter' || (row.reading.trim() === '' && row.value.trim() === '')) return;
		event.preventDefault();
		await tick();
		(column === 0 ? cell(at, 1) : cell(at + 1, 0))?.focus();
	}
	async function paste(event: ClipboardEvent, at: number) {
		const next = pasted(shown, at, event.clipboardData?.getData('text') ?? '');
		if (!next) return;
		event.preventDefault();
		told(next);
		await tick();
		cell(next.length - 1, 0)?.focus();
	}
	/** Lines as a picture of the leaflet has them, in place of what stands in the table. */
	let looking = $state(false);
	/** The keyboard stands again on what opened it. */
	async function close() {
		looking = false;
		await tick();
		document.querySelector<HTMLElement>('[data-testid=leaflet-camera]')?.focus();
	}
	let doubtful: number[] = $state.raw([]);
	/** What stood in the table before a picture's lines took its place. */
	let before: Row[] | undefined = $state.raw();
	function fromPicture(lines: [string, string][], doubt: number[]) {
		before ??= rows.some((r) => r.reading.trim() || r.value.trim()) ? rows : undefined;
		doubtful = doubt;
		told(withRoom(lines.map(([reading, value]) => ({ reading, value }))));
	}
	const columns = $derived([
		['reading', reads === 'syringe' ? 'Reading, mL' : 'Drops'],
		['value', formatUnit(unit) || unit]
	] as const);
</script>

{#if looking}
	{#await import('$lib/ui/eye/LeafletPhoto.svelte') then { default: LeafletPhoto }}
		<LeafletPhoto onlines={fromPicture} onclose={() => void close()} />
	{:catch}
		<p class="mb-2 text-brick" role="alert">▲ What reads pictures cannot be fetched without the network.</p>
	{/await}
{/if}
{#if before}
	<p class="mb-2 text-sm">
		The picture’s lines stand in place of yours.
		<button
			type="button"
			class="link"
			onclick={() => {
				told(before!);
				before = undefined;
				doubtful = [];
			}}>Undo</button
		>
	</p>
{/if}
<div class="grid gap-x-6 gap-y-3 md:grid-cols-[15rem_minmax(0,1fr)]">
	<table bind:this={table} class="w-full self-start" data-leaflet>
		<caption class="sr-only">Lines of the leaflet’s chart</caption>
		<thead>
			<tr>
				{#each columns as [key, title] (key)}
					<th scope="col" class="pb-1 text-start text-sm font-normal text-faint">{title}</th>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each shown as row, i (i)}
				<tr class={suspects.has(i) ? 'bg-saffron-wash' : ''}>
					{#each columns as [key, title], column (key)}
						<td class="pe-1 pb-1">
							<Input
								class="figure"
								inputmode="decimal"
								autocomplete="off"
								aria-label="{title}, line {i + 1}"
								aria-invalid={typed.problems.has(i) ? 'true' : undefined}
								aria-describedby="leaflet-said"
								value={row[key]}
								oninput={(e) => set(i, { [key]: (e.currentTarget as HTMLInputElement).value })}
								onkeydown={(e) => enter(e, i, column as 0 | 1)}
								onpaste={(e) => paste(e, i)}
							/>
						</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
	<div id="leaflet-said" aria-live="polite" class="min-w-0 text-sm">
		{#each [...typed.problems].slice(0, 3) as [row, message] (row)}
			<p class="text-brick">▲ Line {row + 1}: {message}</p>
		{/each}
		{#if doubtful.length}<p class="text-saffron" data-testid="doubtful">
				▲ Look at line{doubtful.length === 1 ? '' : 's'}
				{doubtful.slice(0, 12).join(', ')}: not everything in {doubtful.length === 1 ? 'it' : 'them'} was read with
				certainty.
			</p>{/if}
		{#if typed.problem}<p class="text-brick">▲ {typed.problem}</p>{/if}
		{#if fit}
			<p data-testid="fit">
				{#if fit.linear}
					Straight{typed.points.length === 2 ? ', if a third line says so too' : ''}:
					<span class="figure">{figures(Math.abs(slope), 4)}</span>
					{formatUnit(unit)}{slope < 0 ? ' less' : ''} for each {reads === 'syringe' ? 'mL used' : 'drop'}.
				{:else}
					A curve: kept as its {fit.scale.kind === 'table' ? fit.scale.points.length : 0} lines.
				{/if}
				{#if fit.readAs}It goes by what is <strong>{fit.readAs}</strong>.{/if}
				Rounded to {figures(fit.rounding)}.
			</p>
			{#each suspects as [row, expected] (row)}
				<p class="mt-1 rounded bg-saffron-wash px-2 py-1" data-suspect>
					▲ Line {row + 1} does not fit: {shown[row]?.value} should probably be {figures(expected, 6)}. It is
					left out.
					<button type="button" class="link" onclick={() => set(row, { sure: true })}>My line is right</button
					>
				</p>
			{/each}
			{#if typed.open}
				<div class="mt-1 rounded bg-saffron-wash px-2 py-1" data-testid="asks">
					{#each fit.asks as ask, i (i)}<p>◐ {askInWords(ask, { parameter, unit, reads })}</p>{/each}
					<Button color="alternative" class="my-1 min-h-11" onclick={check}
						>It stands so on the leaflet</Button
					>
				</div>
			{/if}
			<ChartPicture points={typed.points} {fit} {fillMl} />
		{:else if !typed.problems.size}
			<p class="text-faint">
				Two lines make a scale, the ends of the chart are best; a third proves it, more find mistakes. A
				copied table can be pasted. What the leaflet rounds is made exact again.
			</p>
		{/if}
	</div>
</div>
<!-- Behind the lines, so that who types them meets them first. -->
{#if !looking}
	<Button
		color="alternative"
		class="mt-2 min-h-11"
		onclick={() => (looking = true)}
		data-testid="leaflet-camera">Read it from a picture</Button
	>
{/if}
