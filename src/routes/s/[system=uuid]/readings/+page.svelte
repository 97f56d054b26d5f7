<script lang="ts">
	import { untrack } from 'svelte';
	import { invalidateAll } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import { parameterOf } from '$core/catalogue';
	import { restoring, voiding, voidingReadings } from '$lib/client/commands';
	import type { BookLine, BookPage, BookReading } from '$lib/api/book';
	import { call } from '$lib/client/api';
	import Correct from '$lib/ui/book/Correct.svelte';
	import Filters from '$lib/ui/book/Filters.svelte';
	import History from '$lib/ui/book/History.svelte';
	import { byDay, hourOf } from '$lib/ui/book/lines';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { post } from '$lib/ui/outbox.svelte';
	import Did from '$lib/ui/trends/Did.svelte';
	import { provedInWords } from '$lib/ui/words/checks';
	import { eventInWords } from '$lib/ui/trends/event-words';
	import { parameterFor } from '$lib/ui/habits';
	import { readingFor } from '$lib/ui/mine';
	import { inWords, seenIn } from '$lib/ui/wording';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const timeZone = $derived(data.system.timeZone);
	const mayChange = $derived(data.system.role !== 'viewer');

	/** Pages that were asked for below the first. */
	let older: BookPage[] = $state.raw([]);
	let asking = $state(false);
	/** Why the last page asked for did not come, in the server's words. */
	let failed: string | undefined = $state();
	$effect(() => {
		// Another filter, or something new in the book: from the top again, as deep as it was.
		void data.page;
		untrack(() => {
			const depth = older.length;
			older = [];
			if (depth) void refill(depth);
		});
	});
	const lines = $derived([data.page, ...older].flatMap((p) => p.lines));
	const next = $derived((older.at(-1) ?? data.page).next);
	const days = $derived(byDay(lines, timeZone));

	async function more() {
		if (asking || !next) return;
		asking = true;
		failed = undefined;
		const from = data.page;
		const found = await call<BookPage>('GET', next);
		asking = false;
		if (!found.ok) failed = found.problems[0]?.message;
		else if (from === data.page) older = [...older, found.value];
	}
	async function refill(depth: number) {
		for (let i = 0; i < depth && !failed; i++) await more();
	}
	/** Asks for what is older before the end is seen. */
	function nearing(node: HTMLElement) {
		const watch = new IntersectionObserver((seen) => seen.some((s) => s.isIntersecting) && void more(), {
			rootMargin: '600px'
		});
		watch.observe(node);
		return () => watch.disconnect();
	}

	let open: string | undefined = $state();
	let correcting: string | undefined = $state();
	let choosing = $state(false);
	let chosen: string[] = $state([]);
	let undo: { words: string; back: () => void } | undefined = $state();

	function voidOne(line: BookLine) {
		const about = line.line === 'reading' ? inMine(line) : eventInWords(line.event);
		const kind = `${line.line}s` as const;
		const change = (voided: boolean) =>
			post(
				voided
					? voiding(kind, line.id, 'voided in the book', `voiding ${about}`)
					: restoring(kind, line.id, `putting back ${about}`)
			);
		change(!line.voided);
		undo = { words: `${line.voided ? 'Put back' : 'Voided'}: ${about}`, back: () => change(line.voided) };
	}
	let why = $state('');
	function voidChosen(event: Event) {
		event.preventDefault();
		const ids = chosen;
		const reason = why.trim();
		if (!ids.length || !reason) return;
		const change = (voided: boolean) =>
			post(
				voidingReadings(
					{
						systemId: data.system.id,
						ids,
						voided,
						reason: voided ? reason : `undone: ${reason}`.slice(0, 300)
					},
					`${voided ? 'voiding' : 'putting back'} ${ids.length} tests`
				)
			);
		change(true);
		undo = { words: `Voided: ${ids.length} tests`, back: () => change(false) };
		chosen = [];
		choosing = false;
		why = '';
	}
	const did = $derived(parameterFor(data.filter.parameter ?? '') ?? parameterFor('alkalinity')!);
	const inMine = (r: BookReading) => {
		const mine = readingFor(r);
		return inWords(mine, mine.unit);
	};
	const titleOf = (r: BookReading) => parameterOf(r.parameter)?.title ?? r.parameter;
	const csv = $derived(
		`/api/v1/systems/${data.system.id}/readings.csv?${new URLSearchParams(Object.entries(data.filter).filter(([k, v]) => v && k !== 'lines') as [string, string][])}`
	);
</script>

<Title of="Readings" />

<div class="flex flex-wrap items-center gap-x-4 gap-y-1">
	<h1>Readings</h1>
	<span class="flex-1"></span>
	{#if mayChange}
		<a class="link" href="/s/{data.system.id}/readings/notebook">A page of a note book</a>
		<a class="link" href="/s/{data.system.id}/import">Import</a>
	{/if}
	<a class="link" href={csv} download>Export</a>
	<a class="link" href="/s/{data.system.id}/wall">Print</a>
	{#if mayChange}
		<button class="link" aria-pressed={choosing} onclick={() => ((choosing = !choosing), (chosen = []))}
			>{choosing ? 'Select none' : 'Select'}</button
		>
	{/if}
</div>
<Filters
	filter={data.filter}
	measured={data.measured}
	sources={data.sources}
	methods={data.methods}
	{timeZone}
/>
<Trouble says={data.problem && `The address asks for something odd: ${data.problem}. Everything is shown.`} />
{#if mayChange}
	<div class="mt-2">
		<Did
			parameter={did}
			system={data.system}
			now={data.now}
			dosing={0}
			usualNew={{}}
			bottles={data.bottles}
		/>
	</div>
{/if}
<div class="min-h-6 text-sm" aria-live="polite">
	{#if undo}
		<span>{undo.words}</span>
		<Button
			size="sm"
			color="alternative"
			class="ms-2"
			onclick={() => {
				undo?.back();
				undo = undefined;
			}}>Undo</Button
		>
	{/if}
</div>
{#if choosing}
	<form
		class="sticky top-0 z-5 mt-1 flex flex-wrap items-center gap-3 border-y bg-sheet py-2"
		onsubmit={voidChosen}
	>
		<span>{chosen.length} selected</span>
		<Label class="flex flex-1 items-center gap-2"
			>why <Input
				class="min-w-40 flex-1"
				bind:value={why}
				maxlength={280}
				placeholder="the reagent was old"
			/></Label
		>
		<Button type="submit" disabled={!chosen.length || !why.trim()}>Void them</Button>
	</form>
{/if}

{#each days as day (day.date)}
	<section class="day" aria-label={day.title}>
		<h2 class="mt-3 border-b pb-1 text-faint">{day.title}</h2>
		<ul class="divide-y">
			{#each day.lines as line (line.id)}
				<li class={line.voided ? 'text-faint' : ''} data-line={line.line}>
					<div class="row">
						{#if choosing && line.line === 'reading' && !line.voided}
							<Checkbox
								checked={chosen.includes(line.id)}
								onchange={(e) =>
									(chosen = e.currentTarget.checked
										? [...chosen, line.id]
										: chosen.filter((id) => id !== line.id))}
								><span class="sr-only">{titleOf(line)} {inMine(line)}</span></Checkbox
							>
						{:else}<span class="figure text-sm text-faint">{hourOf(line.takenAt, timeZone)}</span>{/if}
						{#if line.line === 'reading'}
							<button
								class="what"
								aria-expanded={open === line.id}
								aria-controls="line-{line.id}"
								onclick={() => ((open = open === line.id ? undefined : line.id), (correcting = undefined))}
							>
								<span class="font-medium">{titleOf(line)}</span>
								<span class="figure {line.voided ? 'line-through' : ''}">{inMine(line)}</span>
								<span class="seen">
									{seenIn(line)}, {line.methodName}{line.ownChart ? '' : ' ○ no chart of its own yet'}{line
										.proof?.takenOff === undefined
										? ''
										: ` ◆ ${provedInWords(line.parameter, line.proof)}`}{line.sourceKind === 'tank'
										? ''
										: ` · ${line.sourceName}`}
								</span>
								<span class="by">
									{line.by}{line.voided ? ' · voided' : line.revision > 1 ? ' · corrected' : ''}{line.marks
										?.length
										? ' · ▲'
										: ''}
								</span>
							</button>
						{:else}
							<span class="what done">
								<span class="text-plum" aria-hidden="true">◇</span>
								<span class={line.voided ? 'line-through' : ''}
									>{eventInWords(line.event)}{'parameter' in line.event
										? ` of ${line.event.parameter}`
										: ''}</span
								>
								<span class="by">{line.by}</span>
							</span>
							{#if mayChange}
								<button
									class="min-h-11 min-w-11 px-2 text-sm {line.voided ? 'text-plum' : 'text-brick'}"
									aria-label="{line.voided ? 'Put back' : 'Void'} {eventInWords(line.event)}"
									onclick={() => voidOne(line)}>{line.voided ? 'Put back' : 'Void'}</button
								>
							{/if}
						{/if}
					</div>
					{#if line.line === 'reading' && open === line.id}
						<div id="line-{line.id}" class="mb-3 ms-4 md:ms-14">
							<History {line} {timeZone} mayWrite={mayChange} />
							{#if mayChange && correcting !== line.id}
								<div class="mt-1 flex gap-3">
									{#if !line.voided}
										<button class="link" onclick={() => (correcting = line.id)}>Correct it</button>
									{/if}
									<button
										class="min-h-11 underline {line.voided ? 'text-plum' : 'text-brick'}"
										onclick={() => voidOne(line)}>{line.voided ? 'Restore it' : 'Void it'}</button
									>
									<a class="link" href="/s/{data.system.id}/trends?of={line.parameter}">Over time</a>
								</div>
							{/if}
							{#if correcting === line.id}
								<Correct {line} {timeZone} ondone={() => ((correcting = undefined), void invalidateAll())} />
							{/if}
						</div>
					{/if}
				</li>
			{/each}
		</ul>
	</section>
{:else}
	<div class="mt-6 max-w-prose">
		{#if Object.values(data.filter).some(Boolean)}
			<p>Nothing in the book is like that.</p>
		{:else}
			<p>
				Every test and everything done to the water stands here, day by day, with its error and every later
				correction. Begin at the bench, or bring the sheet you have kept so far.
			</p>
			<div class="mt-4 flex flex-wrap gap-3">
				<Button href="/s/{data.system.id}/bench/one?of=alkalinity">Measure alkalinity</Button>
				<Button color="alternative" href="/s/{data.system.id}/import">Import</Button>
			</div>
		{/if}
	</div>
{/each}
{#if next}
	<div class="py-4" {@attach nearing}>
		<Button color="alternative" onclick={more} disabled={asking}>{asking ? 'fetching…' : 'Older'}</Button>
		<Trouble says={failed} />
	</div>
{/if}

<style>
	/* Days out of sight are not laid out: the book stays quick when it is long. */
	.day {
		content-visibility: auto;
		contain-intrinsic-size: auto 12rem;
	}
	.row {
		display: grid;
		grid-template-columns: 3rem minmax(0, 1fr) auto;
		align-items: center;
		column-gap: 0.75rem;
	}
	.what {
		display: grid;
		grid-template-columns: 8.5rem 12rem minmax(0, 1fr) auto;
		column-gap: 0.75rem;
		align-items: center;
		min-height: 2.75rem;
		text-align: start;
		border-radius: 0.4rem;
	}
	button.what:hover {
		background: var(--plum-wash);
	}
	.what.done {
		grid-template-columns: auto minmax(0, 1fr) auto;
	}
	.seen,
	.by {
		font-size: 0.875rem;
		color: var(--faint-ink);
	}
	@media (max-width: 48rem) {
		button.what {
			grid-template-columns: minmax(0, 1fr) auto;
			padding-block: 0.25rem;
		}
		.seen {
			grid-column: 1;
		}
		.by {
			text-align: end;
		}
	}
</style>
