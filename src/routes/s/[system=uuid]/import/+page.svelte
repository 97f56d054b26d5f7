<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { SheetLayout } from '$core/formats';
	import { formatUnit } from '$core/quantities';
	import { parameterOf } from '$core/catalogue';
	import { takeBackSheet } from '$lib/client/commands';
	import type { Separator } from '$lib/sheets/parse';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import Columns from '$lib/ui/book/Columns.svelte';
	import { openSheetReader } from '$lib/ui/book/sheet-reader.svelte';
	import { openUpload } from '$lib/ui/book/upload.svelte';
	import { saveFile } from '$lib/ui/save-file';
	import { figures, unitFor } from '$lib/ui/habits';
	import { valueFor } from '$lib/ui/mine';
	import { dateAndTime, dateOnly } from '$lib/ui/when';
	import { plural } from '$lib/ui/words/plural';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const timeZone = $derived(data.system.timeZone);

	// svelte-ignore state_referenced_locally
	const reader = openSheetReader({ timeZone: data.system.timeZone, now: Date.parse(data.now) });
	// svelte-ignore state_referenced_locally
	const upload = openUpload(data.system.id);
	const { file, sheet } = $derived(reader);
	const progress = $derived(upload.progress);
	/** Of what was imported before. */
	let problem = $state('');
	let over = $state(false);

	function take(chosen: File | undefined) {
		if (!chosen) return;
		upload.clear();
		problem = '';
		void reader.take(chosen);
	}
	/** Where it is still being looked at, it goes on as soon as that is over. */
	const keep = () =>
		reader.whenLooked(() => {
			if (reader.file && reader.sheet) void upload.send(reader.file, reader.sheet);
		});
	async function takeBack(id: string) {
		const done = await takeBackSheet(data.system.id, id);
		problem = done.ok ? '' : done.problems[0]!.message;
		if (progress?.kind === 'done' && progress.id === id) upload.clear();
		await invalidateAll();
	}
	function giveBack() {
		if (!sheet || !file) return;
		const href = URL.createObjectURL(new Blob(['\uFEFF', sheet.refusedSheet], { type: 'text/csv' }));
		saveFile(`not-taken-${file.name.replace(/\.\w+$/, '')}.csv`, href);
		setTimeout(() => URL.revokeObjectURL(href), 10_000);
	}
	const SEPARATORS: [Separator, string][] = [
		[',', 'comma'],
		[';', 'semicolon'],
		['\t', 'tab'],
		['|', 'bar']
	];
	const working = $derived(progress?.kind === 'progress');
	const day = (at: number) => dateOnly(new Date(at).toISOString(), timeZone);
	/** What a cell means, as this keeper counts it. */
	function inMine(parameter: string, raw: object): string {
		// Specific gravity says all it says in its last digits.
		const most = unitFor(parameter).startsWith('SG') ? 5 : 4;
		const of = (x: unknown) => figures(valueFor(parameter, Number(x)), most);
		const said =
			'below' in raw
				? `< ${of(raw.below)}`
				: 'above' in raw
					? `> ${of(raw.above)}`
					: 'shown' in raw
						? [raw.shown].flat().map(of).join(' to ')
						: '';
		return `${said} ${formatUnit(unitFor(parameter))}`.trim();
	}
</script>

<Title of="Import a sheet" />
<div class="flex flex-wrap items-center gap-4">
	<h1>Import a sheet</h1>
	<a class="link" href="/s/{data.system.id}/readings">Back to the readings</a>
	{#if sheet && file && progress?.kind !== 'done'}
		<span class="flex-1"></span>
		<Button color="alternative" disabled={working} onclick={reader.putAway}>Another file</Button>
		<Button disabled={!sheet.count || working} onclick={keep}>Import {plural(sheet.count, 'test')}</Button>
	{/if}
</div>
{#if !sheet || progress?.kind === 'done'}
	<!-- Dropping is a shortcut: the button beneath does the same. -->
	<div
		class="mt-2 flex flex-col items-center gap-3 rounded-xl border-2 border-dashed p-8 text-center {over
			? 'bg-plum-wash'
			: ''}"
		role="group"
		aria-label="A file"
		ondragover={(e) => (e.preventDefault(), (over = true))}
		ondragleave={() => (over = false)}
		ondrop={(e) => (e.preventDefault(), (over = false), take(e.dataTransfer?.files[0]))}
	>
		<p class="max-w-prose">
			Any sheet you have kept: one test a row, or one date a row with a column for each parameter. Tevrik
			guesses what is what, shows it, and changes nothing before you say so.
		</p>
		<label
			class="flex min-h-14 cursor-pointer items-center rounded-lg bg-plum px-6 text-lg text-on-plum focus-within:outline-3 focus-within:outline-offset-2 focus-within:outline-plum"
		>
			Choose a file, or drop it here
			<input
				type="file"
				accept=".csv,.tsv,.txt,.xlsx,.ods,text/csv,text/tab-separated-values,text/plain"
				class="sr-only"
				onchange={(e) => take(e.currentTarget.files?.[0])}
			/>
		</label>
		<p class="text-sm text-faint">
			XLSX, ODS, CSV, TSV or text, up to 50 MB. {reader.isReading ? 'Reading it…' : ''}
		</p>
	</div>
{/if}
<Trouble says={reader.problem || problem} />
{#if progress}
	<div class="mt-3 rounded-lg border bg-sheet p-3" role="status" data-testid="progress">
		{#if progress.kind === 'progress'}
			<progress class="w-full" max={progress.of || 1} value={progress.done}></progress>
			<p class="flex flex-wrap items-center gap-4">
				<span
					>{figures(Math.floor((100 * progress.done) / (progress.of || 1)))} % saved; all of it is kept together
					at the end.</span
				>
				<Button color="alternative" onclick={() => upload.stop()}>Stop</Button>
			</p>
		{:else if progress.kind === 'done'}
			{@const p = progress}
			<p class="flex flex-wrap items-center gap-4">
				<span>
					● {plural(p.added, 'test')} imported{p.known ? `, ${p.known} were there already` : ''}{p.refused
						? `, ${plural(p.refused, 'cell')} left out`
						: ''}{p.notes ? `, ${plural(p.notes, 'note')}` : ''}.
				</span>
				<a class="link" href="/s/{data.system.id}/readings">See them</a>
				<Button color="alternative" onclick={() => takeBack(p.id)}>Undo the import</Button>
			</p>
		{:else}
			<p class="text-brick">▲ {progress.message}</p>
		{/if}
	</div>
{/if}
{#if sheet && file && progress?.kind !== 'done'}
	{@const s = sheet}
	<div class="mt-2 flex flex-wrap items-end gap-3 text-sm text-faint">
		<p class="text-base text-ink">
			<strong>{file.name}</strong>: {plural(s.count, 'test')}{s.from !== null && s.to !== null
				? `, ${day(s.from)} to ${day(s.to)}`
				: ''}{s.notes ? `, ${plural(s.notes, 'note')}` : ''}
		</p>
		{#if reader.sheets.length > 1}
			{@const name = file.name}
			<Label
				>Sheet
				<Select
					placeholder=""
					value={String(
						Math.max(
							0,
							reader.sheets.findIndex((x) => x.text === file?.text)
						)
					)}
					onchange={(e) => reader.choose(name, reader.sheets[Number(e.currentTarget.value)]!)}
				>
					{#each reader.sheets as x, i (x.name)}<option value={String(i)}
							>{x.name}, {plural(x.rows, 'row')}</option
						>{/each}
				</Select></Label
			>
		{/if}
		<Label
			>Cells parted by
			<Select
				placeholder=""
				value={s.separator}
				onchange={(e) => reader.look(e.currentTarget.value as Separator, s.layout)}
			>
				{#each SEPARATORS as [key, words] (key)}<option value={key}>{words}</option>{/each}
			</Select></Label
		>
		<Label
			>Dates
			<Select
				placeholder=""
				value={s.layout.order}
				onchange={(e) => reader.change({ order: e.currentTarget.value as SheetLayout['order'] })}
			>
				<option value="dmy">day first</option>
				<option value="mdy">month first</option>
				<option value="ymd">year first</option>
			</Select></Label
		>
		<Label
			>Decimals
			<Select
				placeholder=""
				value={s.layout.decimal}
				onchange={(e) => reader.change({ decimal: e.currentTarget.value as SheetLayout['decimal'] })}
			>
				<option value=".">8.1</option>
				<option value=",">8,1</option>
			</Select></Label
		>
		<Label
			>Hour where none is said
			<Input
				class="w-24!"
				type="number"
				min="0"
				max="23"
				value={s.layout.hour}
				onchange={(e) =>
					reader.change({ hour: Math.min(23, Math.max(0, Math.round(e.currentTarget.valueAsNumber || 0))) })}
			/></Label
		>
	</div>
	{#each s.doubts as doubt (doubt)}<p class="mt-1 text-sm text-saffron">◐ {doubt}</p>{/each}
	<div class="mt-3" aria-busy={reader.isReading}>
		<Columns
			layout={s.layout}
			header={s.header}
			rows={s.rows}
			onchange={(columns) => reader.change({ columns })}
		/>
	</div>
	<div class="mt-4 grid gap-6 lg:grid-cols-2">
		<section>
			<h2>As understood</h2>
			<ul class="mt-1 divide-y text-sm" data-testid="understood">
				{#each s.readings as r, i (i)}
					<li class="flex flex-wrap gap-x-3 py-1">
						<span class="text-faint">{dateAndTime(new Date(r.at).toISOString(), timeZone)}</span>
						<span class="font-medium">{parameterOf(r.parameter)?.title}</span>
						<span class="figure">{inMine(r.parameter, r.raw)}</span>
						{#if r.unit !== unitFor(r.parameter)}<span class="text-faint"
								>from {r.written} {formatUnit(r.unit)}</span
							>{/if}
						{#if r.water}<span class="text-faint">{r.water}</span>{/if}
					</li>
				{:else}
					<li class="py-1">Nothing yet: say which column holds the date, and which the values.</li>
				{/each}
			</ul>
		</section>
		<section>
			{#if s.odd.length || s.layout.leaveOdd}
				<h2>Far outside what such water has</h2>
				<Checkbox
					checked={s.layout.leaveOdd === true}
					onchange={(e) => reader.change({ leaveOdd: e.currentTarget.checked })}>Leave these out</Checkbox
				>
				<ul class="mt-1 mb-3 text-sm">
					{#each s.odd.slice(0, 6) as r, i (i)}
						<li class="text-saffron">
							◐ row {r.row + 1}: {parameterOf(r.parameter)?.title}
							{r.written}
							{formatUnit(r.unit)}. Is the unit right?
						</li>
					{/each}
				</ul>
			{/if}
			<h2>
				{s.refusedCount ? `${plural(s.refusedCount, 'row')} not taken whole` : 'Every row is understood'}
			</h2>
			{#if s.refusedCount}
				<ul class="mt-1 divide-y text-sm" data-testid="refused">
					{#each s.refused.slice(0, 12) as r (r.row)}
						<li class="py-1">
							<span class="text-faint">row {r.row + 1}: {r.cells}</span><br /><span class="text-brick"
								>▲ {r.reason}</span
							>
						</li>
					{/each}
				</ul>
				<button class="link" onclick={giveBack}>These rows as a file, each with its reason</button>
			{/if}
		</section>
	</div>
{/if}
{#if data.files.length}
	<section class="mt-6">
		<h2>Imported before</h2>
		<ul class="mt-1 divide-y text-sm">
			{#each data.files as f (f.id)}
				<li class="flex flex-wrap items-center gap-x-3 py-1">
					<span class="font-medium">{f.name}</span>
					<span class="text-faint"
						>{dateAndTime(f.at, timeZone)} by {f.by}: {f.added} tests{f.known
							? `, ${f.known} known`
							: ''}{f.takenBack ? ', undone' : ''}</span
					>
					{#if !f.takenBack && data.system.role !== 'viewer'}
						<button
							class="min-h-11 px-2 text-brick"
							aria-label="Undo the import of {f.name}"
							onclick={() => takeBack(f.id)}>Undo</button
						>
					{/if}
				</li>
			{/each}
		</ul>
	</section>
{/if}
