<script lang="ts">
	/** A page of a note book, typed as it stands there: each line is understood beside it, and all are saved at once. */
	import { onMount } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import Textarea from 'flowbite-svelte/Textarea.svelte';
	import { LONGEST_PAGE, parseNotebook } from '$core/formats';
	import { expressedIn, read, readingRequest } from '$core/methods';
	import { isPlausible } from '$core/quick';
	import { parameterOf } from '$core/catalogue';
	import type { SaveReading } from '$lib/api/readings';
	import { savingReading, voidingReadings } from '$lib/client/commands';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { currentTime } from '$lib/ui/clock';
	import { NO_MOMENT, momentOf } from '$lib/ui/forms/moment';
	import { unitFor } from '$lib/ui/habits';
	import { calledBy, usedLast } from '$lib/ui/instruments/called-by';
	import { post } from '$lib/ui/outbox.svelte';
	import { dateAndTime, dateOrder, isoDay } from '$lib/ui/when';
	import { inWords } from '$lib/ui/wording';
	import { plural } from '$lib/ui/words/plural';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const timeZone = $derived(data.system.timeZone);

	let text = $state('');
	// svelte-ignore state_referenced_locally
	let sourceId = $state(data.sources[0]!.id);
	let saved: { ids: string[]; page: string; undone: boolean } | undefined = $state();
	const draft = $derived(`notebook.${data.system.id}`);
	onMount(() => (text = readDraft<string>(draft) ?? ''));
	$effect(() => keepDraft(draft, text || undefined));

	const methods = $derived(usedLast(data.methods, []));
	type Understood =
		| { kind: 'nothing' | 'heading' }
		| { kind: 'problem'; message: string }
		| {
				kind: 'test';
				words: string;
				kit: string;
				at: string;
				odd: boolean;
				body: Omit<SaveReading, 'sourceId' | 'sampleId'>;
		  };
	const lines = $derived.by((): Understood[] => {
		const now = currentTime(data.now);
		const habits = { today: isoDay(now, timeZone), order: dateOrder(), unitOf: unitFor };
		const profiles = methods.map((m) => ({ ...m.profile, id: calledBy(m) }));
		return parseNotebook(text, profiles, habits).map((line): Understood => {
			if (line.kind !== 'test') return line;
			const { day, hour, quick } = line;
			const kit = methods.find((m) => calledBy(m) === quick.methodId)!;
			const at = momentOf({ day: { on: day }, ...(hour ? { hour } : {}) }, timeZone, now);
			if (at === null) return { kind: 'problem', message: NO_MOMENT };
			if (kit.profile.takeAway)
				return {
					kind: 'problem',
					message: `${kit.profile.name} takes another answer away: enter it at the bench, after that one`
				};
			const result = read(readingRequest(kit.profile, quick.reading, { sampleSize: quick.sample }));
			if (!result.ok) return { kind: 'problem', message: result.problems[0]!.message };
			const unit = unitFor(quick.parameter);
			const own = expressedIn(result.value, quick.parameter, unit);
			return {
				kind: 'test',
				at,
				words: `${parameterOf(quick.parameter)?.title} ${inWords(own, unit)}`,
				kit: kit.profile.name,
				odd: own.value !== null && !isPlausible(quick.parameter, own.value, unit),
				body: {
					takenAt: at,
					methodVersionId: kit.versionId,
					reading: quick.reading,
					...(quick.sample ? { sampleSize: quick.sample } : {})
				}
			};
		});
	});
	const tests = $derived(lines.flatMap((line) => (line.kind === 'test' ? [line] : [])));
	const problems = $derived(lines.filter((line) => line.kind === 'problem').length);
	const tooLong = $derived(lines.length > LONGEST_PAGE);

	function save(event: Event) {
		event.preventDefault();
		if (!tests.length || problems || tooLong) return;
		const ids = tests.map(({ body, words }) => {
			const id = uuid();
			post(savingReading(id, { sourceId, sampleId: uuid(), ...body }, words));
			return id;
		});
		saved = { ids, page: text, undone: false };
		text = '';
	}
	function undo() {
		if (!saved) return;
		post(
			voidingReadings(
				{ systemId: data.system.id, ids: saved.ids, voided: true, reason: 'undone right after saving' },
				`undoing ${plural(saved.ids.length, 'test')}`
			)
		);
		// What was typed stands there again.
		text = saved.page;
		saved = { ...saved, undone: true };
	}
	const EXAMPLE = 'alk left\n3 May  0.46\n10 May  0.48\n\nno3\n3 May 20:15  3-6';
	/** Words about a line stand beside it, however far the page is scrolled. */
	let box: HTMLTextAreaElement | undefined = $state();
	let beside: HTMLElement | undefined = $state();
</script>

<Title of="A page of a note book" />
<div class="flex flex-wrap items-center gap-4">
	<h1>A page of a note book</h1>
	<a class="link" href="/s/{data.system.id}/readings">Back to the readings</a>
	<a class="link" href="/s/{data.system.id}/import">A whole sheet or file</a>
</div>
<p class="mt-1 max-w-prose text-faint">
	Type it as it stands there, a test a line. A day or a parameter on a line of its own is for all lines below
	it. Where no hour is written, noon is taken.
</p>
<form class="mt-3" onsubmit={save}>
	<div class="page">
		<Label class="page-text"
			>The page
			<Textarea
				class="figure mt-1 w-full border-rule bg-sheet leading-8 text-ink max-md:max-h-72 dark:border-rule dark:bg-sheet dark:text-ink"
				rows={14}
				spellcheck={false}
				autocomplete="off"
				wrap="off"
				data-notebook
				placeholder={EXAMPLE}
				bind:value={text}
				bind:elementRef={box}
				onscroll={() => beside && box && (beside.scrollTop = box.scrollTop)}
			/></Label
		>
		<div>
			<h2 class="text-sm font-normal text-faint">As understood</h2>
			<ol class="understood" bind:this={beside} data-testid="understood" aria-live="polite">
				{#each lines as line, i (i)}
					<li>
						{#if line.kind === 'test'}
							<span class="text-faint">{dateAndTime(line.at, timeZone)}</span>
							<span class="font-medium">{line.words}</span> <span class="text-faint">{line.kit}</span>
							{#if line.odd}<span class="text-saffron">◐ far outside what such water has</span>{/if}
						{:else if line.kind === 'problem'}
							<span class="text-brick">▲ line {i + 1}: {line.message}</span>
						{:else if line.kind === 'heading'}
							<span class="text-faint">for the lines below</span>
						{/if}
					</li>
				{/each}
			</ol>
		</div>
	</div>
	<div class="mt-3 flex flex-wrap items-end gap-4">
		{#if data.sources.length > 1}
			<Label
				>Water
				<Select placeholder="" bind:value={sourceId}>
					{#each data.sources as s (s.id)}
						<option value={s.id}>{s.name}{s.kind === 'tank' ? '' : `, ${s.kind}`}</option>
					{/each}
				</Select></Label
			>
		{/if}
		<Button type="submit" class="min-h-14 px-6 text-lg" disabled={!tests.length || problems > 0 || tooLong}
			>Save {plural(tests.length, 'test')}</Button
		>
		{#if problems}<span class="text-sm text-brick">▲ {plural(problems, 'line')} not understood yet</span>{/if}
		{#if tooLong}<span class="text-sm text-brick"
				>▲ A page has at most {LONGEST_PAGE} lines; import what is longer as a sheet.</span
			>{/if}
		{#if saved && (!text || text === saved.page)}
			<p class="flex flex-wrap items-center gap-3" role="status" data-testid="saved">
				{saved.undone ? 'Undone' : 'Saved'}: {plural(saved.ids.length, 'test')}.
				{#if !saved.undone}<Button color="alternative" onclick={undo}>Undo</Button>{/if}
			</p>
		{/if}
	</div>
</form>

<style>
	.page {
		display: grid;
		grid-template-columns: minmax(12rem, 24rem) minmax(0, 1fr);
		gap: 1.5rem;
	}
	/* A line here is as high as a line of the page. */
	.understood {
		height: calc(14 * 2rem + 1.25rem);
		margin-top: 0.25rem;
		padding-top: 0.625rem;
		overflow: hidden;
		font-size: 0.9rem;
	}
	.understood li {
		height: 2rem;
		line-height: 2rem;
		overflow: hidden;
		white-space: nowrap;
		text-overflow: ellipsis;
	}
	@media (max-width: 48rem) {
		.page {
			grid-template-columns: minmax(0, 1fr);
			gap: 0.5rem;
		}
		/* Below the page, each in as many lines as it needs. */
		.understood {
			height: auto;
			padding-top: 0;
		}
		.understood li {
			height: auto;
			white-space: normal;
			line-height: 1.5;
		}
		.understood li:empty {
			display: none;
		}
	}
</style>
