<script lang="ts">
	/** All results of a session on one sheet, beside last time and band; questions are answered, then one save. */
	import * as say from '$messages/rack';
	import { SvelteSet } from 'svelte/reactivity';
	import Button from 'flowbite-svelte/Button.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import type { Run, TakenReading } from '$core/run';
	import { read } from '$core/methods';
	import { formatUnit } from '$core/quantities';
	import { questions } from '$core/misreadings';
	import { placeInBand, type Band } from '$core/targets';
	import { changeBetween } from '$core/trend';
	import type { EarlierReading } from '$lib/api/readings';
	import { tagged } from '$core/instruments';
	import { answeredYes } from '$lib/ui/instruments/answered';
	import { draftOn, freshDraft, readingOf } from '$lib/ui/instruments/draft';
	import { expectedFor } from '$lib/ui/instruments/expected';
	import { farInWords } from '$lib/ui/words/judgements';
	import NotYours from '$lib/ui/instruments/NotYours.svelte';
	import Questions from '$lib/ui/instruments/Questions.svelte';
	import { daysAgo } from '$lib/ui/when';
	import StateChip from '$lib/ui/shell/StateChip.svelte';
	import { changeInShort, inWords, shownValue, seenAs } from '$lib/ui/wording';
	import { clockTime, inMinutes } from './choices';
	import { effectOf, markInWords, repeatedIn, type Result } from './results';
	import { repeatedInWords } from '$lib/ui/words/checks';

	interface Props {
		run: Run;
		results: Result[];
		titles: Record<string, string>;
		system: { id: string; name: string; timeZone: string };
		water: string;
		/** What is known of a test's water. */
		waterOf: (test: Result['test']) => {
			earlier: (parameter: string) => EarlierReading[];
			band: (parameter: string) => Band | undefined;
			level: (parameter: string) => { value: number; standardDeviation: number } | undefined;
		};
		/** Only the tank’s own water is brought anywhere. */
		ofTank: boolean;
		now: string;
		onamend: (result: Result, taken: Pick<TakenReading, 'reading' | 'sampleSize'>) => void;
		onback: (() => void) | undefined;
		onagain: (test: string) => void;
		/** Where the chart of a test's kit is typed. */
		chartOf: (result: Result) => string;
		onfinish: (chosen: Result[], to: 'rack' | 'adjust') => void;
	}
	let {
		run,
		results,
		titles,
		system,
		water,
		waterOf,
		ofTank,
		now,
		onamend,
		onback,
		onagain,
		chartOf,
		onfinish
	}: Props = $props();

	const left = new SvelteSet<string>();
	const settled = new SvelteSet<string>();
	const finished = $derived(run.finishedAt !== undefined);
	const together = $derived(run.save === 'together' && !finished);
	const chosen = $derived(results.filter((r) => r.measured && !left.has(r.taken.readingId)));

	const rows = $derived(
		results.map((r) => {
			const { measured } = r;
			const its = waterOf(r.test);
			const level = its.level(r.parameter);
			const earlier = its.earlier(r.parameter).filter((e) => e.id !== r.taken.readingId);
			const last = earlier.find((e) => e.ownChart);
			const band = r.counts ? its.band(r.parameter) : undefined;
			const expected = expectedFor(r.method, r.parameter, r.unit, level);
			const asked =
				together && r.counts && !r.hidden
					? questions({ ...r.request, ...(expected ? { expected } : {}) }, measuredOf(r)).filter(
							(q) => !settled.has(`${r.taken.readingId}/${q.slip}/${JSON.stringify(r.taken.reading)}`)
						)
					: [];
			return {
				...r,
				last,
				asked,
				place:
					measured?.value != null && measured.standardUncertainty && band
						? placeInBand(measured.value, measured.standardUncertainty, band)
						: undefined,
				change:
					r.counts &&
					measured?.value != null &&
					last?.value != null &&
					last.standardUncertainty &&
					last.repeatability
						? changeBetween(
								{
									value: last.value,
									standardUncertainty: last.standardUncertainty,
									repeatability: last.repeatability,
									methodId: last.methodName
								},
								{
									value: measured.value,
									standardUncertainty: measured.standardUncertainty!,
									repeatability: measured.repeatability!,
									methodId: r.method.name
								}
							)
						: undefined,
				far:
					r.counts && measured?.value != null && measured.standardUncertainty
						? farInWords(
								{ value: measured.value, standardUncertainty: measured.standardUncertainty },
								level,
								last,
								now,
								system.timeZone
							)
						: undefined,
				words: measured ? shownValue(measured) : undefined,
				// A number that is to come is not read towards.
				...(r.hidden
					? { words: undefined, place: undefined, change: undefined, far: undefined, last: undefined }
					: {})
			};
		})
	);

	function measuredOf({ request }: Result) {
		const outcome = read(request);
		if (!outcome.ok) throw new Error('a kept reading no longer reads');
		return outcome.value;
	}
	function yes(row: Result, slip: string, value: number) {
		const meant = answeredYes(row.request, slip, value, (r) => {
			const there = read(r);
			return there.ok ? there.value.value : null;
		});
		if (!meant) return;
		const draft = { ...freshDraft(row.method), ...draftOn(row.method, row.taken.reading), ...meant };
		const reading = readingOf(row.method, draft);
		if (reading?.ok)
			onamend(row, {
				reading: reading.value,
				...(row.method.samples ? { sampleSize: meant.sampleSize ?? row.taken.sampleSize } : {})
			});
	}
	const twice = $derived(repeatedIn(results, titles));
	const took = $derived(((run.finishedAt ?? run.lastAt) - run.startedAt) / 1000);
	const unread = $derived(run.tests.filter((t) => !t.taken && !t.before.length));
</script>

<div class="sheet" data-testid="results">
	<div class="flex flex-wrap items-baseline gap-x-4">
		<h1>{finished ? 'The evening' : 'Results of the evening'}</h1>
		<p class="text-faint">
			{water}, {clockTime(run.startedAt, system.timeZone)} to {clockTime(
				run.finishedAt ?? run.lastAt,
				system.timeZone
			)}, {inMinutes(took)}
		</p>
	</div>
	<ul class="mt-3 divide-y border-y">
		{#each rows as row (row.taken.readingId)}
			<li class="py-2">
				<div class="row">
					{#if together}
						<Checkbox
							class="size-6"
							aria-label="Save {titles[row.test.id]}"
							checked={!left.has(row.taken.readingId)}
							onchange={() =>
								left.has(row.taken.readingId)
									? left.delete(row.taken.readingId)
									: left.add(row.taken.readingId)}
						/>
					{:else}<span class="text-moss" title="saved">●</span>{/if}
					<span class="min-w-0">
						<span class="font-medium">{titles[row.test.id]}</span>
						<span class="block text-sm text-faint"
							>{row.hidden
								? 'read; shown when all tests are over'
								: seenAs(tagged(row.method, row.taken.reading))}{row.earlier ? ', first vial' : ''}</span
						>
					</span>
					<span class="value">
						{#if row.words}
							<span class="figure text-3xl font-semibold">{row.words.value}</span>
							<span class="figure text-faint">{row.words.error} {formatUnit(row.unit)}</span>
						{/if}
					</span>
					<span>
						{#if row.place}<StateChip place={row.place} />{/if}
						{#if row.measured && !row.counts}<NotYours href={chartOf(row)} />{/if}
						{#if row.last}
							<span class="block text-sm text-faint">
								last {inWords(row.last, row.last.unit)}, {daysAgo(row.last.takenAt, now, system.timeZone)}
								{row.change ? `· ${changeInShort(row.change, row.measured?.standardUncertainty ?? 0)}` : ''}
							</span>
						{/if}
					</span>
					{#if !finished && !row.earlier}
						<span
							><Button
								size="sm"
								color="alternative"
								aria-label="Repeat {titles[row.test.id]}, keep both"
								onclick={() => onagain(row.test.id)}>Repeat</Button
							></span
						>
					{/if}
				</div>
				{#each row.marks as mark, i (i)}
					<p class="mt-1 text-sm text-saffron">▲ {markInWords(mark)}: {effectOf(row.method, mark.kind)}</p>
				{/each}
				{#if row.far}<p class="mt-1 text-sm text-saffron" data-testid="far">▲ {row.far}</p>{/if}
				<div class="mt-1">
					<Questions
						asked={row.asked}
						onyes={(slip, value) => yes(row, slip, value)}
						onno={(slip) =>
							settled.add(`${row.taken.readingId}/${slip}/${JSON.stringify(row.taken.reading)}`)}
					/>
				</div>
			</li>
		{:else}
			<li class="py-4 text-faint">Nothing was read.</li>
		{/each}
	</ul>
	{#each twice as its, i (i)}
		<p class="mt-2 max-w-prose" data-testid="repeated">◎ {repeatedInWords(its)}</p>
	{/each}
	{#if unread.length}
		<p class="mt-2 text-sm text-faint">Not read: {unread.map((t) => titles[t.id]).join(', ')}.</p>
	{/if}
	<div class="mt-4 flex flex-wrap gap-3">
		{#if finished}
			<Button class="min-h-14 px-6 text-lg" href="/s/{system.id}/rack">To the rack</Button>
			{#if ofTank}<Button color="alternative" class="min-h-14" href="/s/{system.id}/adjust"
					>{say.showPlan()}</Button
				>{/if}
		{:else}
			<Button class="min-h-14 px-8 text-lg" onclick={() => onfinish(chosen, 'rack')} data-testid="finish">
				{together && chosen.length
					? `Save ${chosen.length === 1 ? 'it' : `all ${chosen.length}`}`
					: 'Close the evening'}
			</Button>
			{#if ofTank && chosen.length}
				<Button
					color="alternative"
					class="min-h-14"
					onclick={() => onfinish(chosen, 'adjust')}
					data-testid="finish-adjust"
					>{together ? 'Save, and see what to pour' : 'Close, and see what to pour'}</Button
				>
			{/if}
			{#if onback}<Button color="alternative" class="min-h-14" onclick={onback}>Back to the bench</Button
				>{/if}
		{/if}
	</div>
	<p class="mt-3 max-w-prose text-sm text-faint">
		Rinse and dry vials and syringes; each syringe back to its own kit. Reagents and filtrates go where the
		leaflet and local rules say, never into the tank.
	</p>
</div>

<style>
	.sheet {
		width: 100%;
		max-width: 62rem;
		margin-inline: auto;
		padding: 1rem;
	}
	.row {
		display: grid;
		grid-template-columns: 2rem minmax(8rem, 0.8fr) 13.5rem minmax(14rem, 1.4fr) 5.5rem;
		gap: 0.25rem 1rem;
		align-items: center;
	}
	.value {
		white-space: nowrap;
	}
	@media (max-width: 48rem) {
		.row {
			grid-template-columns: 2rem minmax(0, 1fr);
		}
		.row > :nth-child(n + 3) {
			grid-column: 2;
		}
	}
</style>
