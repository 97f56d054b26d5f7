<script lang="ts">
	/** One test by any method: its instrument, what it says at every move, was it misread, and the way to keep it. */
	import { onMount, tick } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import type { Method } from '$core/instruments';
	import type { Proved, Water } from '$core/methods';
	import type { Parameter } from '$core/catalogue';
	import type { Band } from '$core/targets';
	import type { EarlierReading, SaveReading } from '$lib/api/readings';
	import { bandScale } from '$lib/ui/band-scale';
	import { currentTime } from '$lib/ui/clock';
	import When from '$lib/ui/forms/When.svelte';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { keepPhoto, takenPhoto, type SeenPhoto } from '$lib/client/photo-drafts';
	import { cardColours } from './shades/card-colours';
	import { dateAndTime, daysAgo } from '$lib/ui/when';
	import { inWords } from '$lib/ui/wording';
	import Answer from './Answer.svelte';
	import AnswerNotes from './AnswerNotes.svelte';
	import BandRule from './BandRule.svelte';
	import Budget from './Budget.svelte';
	import { viewOf } from './all';
	import { freshDraft, type Draft } from './draft';
	import type { OtherReading } from './other';
	import NotYours from './NotYours.svelte';
	import Particulars from './Particulars.svelte';
	import Questions from './Questions.svelte';
	import { draftIfYes, nextDraft, readerView, settledBy, takenFrom } from './reader-session';
	import Saved from './Saved.svelte';
	import { openSaving } from './saving.svelte';

	interface Props {
		method: Method;
		methodId: string;
		versionId: string;
		systemId: string;
		sourceId: string;
		parameter: Parameter;
		band: Band | undefined;
		/** What kind of water it is. */
		water?: Water;
		/** Of this parameter in this water, newest first. */
		earlier: EarlierReading[];
		/** What the water is estimated to have now, in the parameter's unit; nothing where it is not known. */
		level: { value: number; standardDeviation: number } | undefined;
		/** The newest of the parameter this method takes away. */
		other: OtherReading | undefined;
		/** What checks have taught of the kit. */
		proved?: Proved | undefined;
		/** What it says is not shown: it is read towards no number. */
		hidden?: boolean | undefined;
		now: string;
		timeZone: string;
		/** A second titrant that goes on in the same vial: its name and where it is read. */
		next: { name: string; href: string } | undefined;
		/** What a quick line understood, to begin with. */
		begin?: Partial<Draft> | undefined;
		/** Takes the reading instead of saving it: a session keeps its results itself. */
		onkeep?:
			| ((taken: Pick<SaveReading, 'reading' | 'sampleSize' | 'takenAwayId'>, photoName: string) => void)
			| undefined;
		/** Under which name the draft is kept, where it belongs to more than this method and water. */
		draftKey?: string | undefined;
		/** When it was read, where that is not now; kept by the page over one reading and the next. */
		at?: string | null | undefined;
	}
	let {
		method,
		methodId,
		versionId,
		systemId,
		sourceId,
		parameter,
		band,
		water = 'tank',
		earlier,
		level,
		other,
		proved,
		hidden = false,
		now,
		timeZone,
		next,
		begin,
		onkeep,
		draftKey,
		at = $bindable()
	}: Props = $props();

	// The parent makes this component anew for another method or water, so first values are the right ones.
	// svelte-ignore state_referenced_locally
	const draftName = draftKey ?? `${systemId}.${sourceId}.${versionId}`;
	// svelte-ignore state_referenced_locally
	const fresh = freshDraft(method);
	let draft = $state.raw(fresh);
	/** Whether the text came from moving the instrument: then it stays where it is when the convention changes. */
	let moved = $state(false);
	let flipped = $state(false);
	/** Questions the keeper has answered with no. */
	let settled: string[] = $state.raw([]);
	let field: HTMLInputElement | undefined = $state();
	const saving = openSaving(draftName);

	/** What had been read by then: later tests say nothing of an earlier one. */
	const byThen = $derived(at ? earlier.filter((r) => r.takenAt <= at!) : earlier);
	const hand = $derived({
		method,
		methodId,
		parameter,
		band,
		water,
		earlier: byThen,
		// What the water has now says nothing of what it had then.
		level: at ? undefined : level,
		other,
		proved,
		now,
		timeZone
	});
	const view = $derived(readerView(hand, draft, settled));
	const parts = $derived({
		method,
		parameter,
		draft,
		view,
		flipped,
		moved,
		onchange: changed,
		onflip(upsideDown: boolean) {
			flipped = upsideDown;
			keepDraft('flipped', upsideDown);
		}
	});
	const doubted = $derived(!hidden && (view.asked.length > 0 || view.nowhere !== undefined));
	const last = $derived(byThen.find((r) => r.ownChart));
	const instrument = $derived(viewOf(method));
	const { Face, Convention, entry } = $derived(instrument);

	onMount(() => {
		const kept = readDraft<Draft>(draftName);
		if (kept) draft = { ...fresh, ...kept };
		if (begin) changed(begin);
		flipped = readDraft<boolean>('flipped') ?? false;
	});
	function changed(part: Partial<Draft>) {
		draft = { ...draft, ...part };
		keepDraft(draftName, draft.text ? draft : undefined);
	}
	function typed(text: string) {
		moved = false;
		// Nothing read any more: what a photograph said of it goes too.
		if (text.trim() === '') forgetPhoto({ text });
		else changed({ text });
	}
	function forgetPhoto(part: Partial<Draft>) {
		keepPhoto(draftName, undefined);
		changed({ ...part, seenShade: undefined, seenPlunger: undefined, eye: undefined });
	}
	/** The camera is loaded only where it is asked for. */
	let looking = $state(false);
	function seen(part: Partial<Draft>, photo: SeenPhoto) {
		moved = true;
		changed(part);
		takenPhoto(draftName, { ...photo, at: currentTime(now).toISOString() });
		closeEye();
	}
	function closeEye() {
		looking = false;
		void tick().then(() => field?.focus());
	}
	function set(part: Partial<Draft>) {
		moved = true;
		changed(part);
	}

	async function save(event: Event) {
		event.preventDefault();
		if (!view.request || !view.own || at === null) {
			field?.focus();
			return;
		}
		const taken = takenFrom(hand, draft, view.request);
		if (onkeep) {
			keepDraft(draftName, undefined);
			onkeep(taken, draftName);
			return;
		}
		const about = `${parameter.title} ${inWords(view.own, parameter.unit)}${at ? `, ${dateAndTime(at, timeZone)}` : ''}`;
		const body: SaveReading = {
			sourceId,
			sampleId: uuid(),
			takenAt: at ?? currentTime(now).toISOString(),
			methodVersionId: versionId,
			...taken
		};
		saving.save(body, about, draft);
		draft = nextDraft(method, draft);
		moved = false;
		settled = [];
		await tick();
		field?.focus();
	}

	/** A number typed anywhere is the reading: what has the keyboard then is the field, before the digit arrives. */
	function digits(event: KeyboardEvent) {
		const elsewhere = (event.target as Element).closest(
			'input:not([type=checkbox], [type=radio], [type=range]), select, textarea, dialog'
		);
		if (elsewhere || event.ctrlKey || event.altKey || event.metaKey || !/^[\d.,<>]$/.test(event.key)) return;
		(field ?? document.querySelector<HTMLElement>('input[data-instrument]'))?.focus();
	}

	const keepColours = $derived(cardColours(method, methodId));

	/** Takes the saved reading back, and puts what was read back on the instrument. */
	function undo() {
		const before = saving.undo();
		if (before) changed(before);
		field?.focus();
	}
</script>

<svelte:window onkeydown={digits} />

{#if saving.saved}
	<Saved
		words={saving.saved.words}
		undone={saving.saved.undone}
		{next}
		onundo={undo}
		onclose={() => {
			saving.close();
			field?.focus();
		}}
	/>
{/if}
{#if looking}
	{#await import('$lib/ui/eye/Eye.svelte')}
		<p class="text-faint">Opening…</p>
	{:then { default: Eye }}
		<Eye {method} {methodId} {draft} onread={seen} onclose={closeEye} oncolours={keepColours} />
	{:catch}
		<p class="text-brick" role="alert">
			▲ What reads pictures cannot be fetched without the network.
			<button type="button" class="link" onclick={closeEye}>Read by hand</button>
		</p>
	{/await}
{:else}
	<form class="bench" onsubmit={save}>
		<div
			class="instrument"
			class:own={instrument.height === 'own'}
			class:below={instrument.onPhone === 'below'}
		>
			<Face
				{method}
				{draft}
				{view}
				{flipped}
				{hidden}
				spoken={hidden && view.result ? 'read' : view.spoken}
				onchange={set}
			/>
		</div>

		<div class="answer" aria-live="polite">
			<Answer
				title={parameter.title}
				unit={parameter.unit}
				words={hidden ? undefined : view.words}
				place={hidden ? undefined : view.place}
			>
				{#if hidden}<span class="block text-sm text-faint" data-testid="hidden"
						>○ hidden until every test of the evening is over</span
					>{/if}
				{#if !view.counts}<NotYours href="/s/{systemId}/shelf/{methodId}" />{/if}
				<AnswerNotes
					{method}
					{parameter}
					{draft}
					{view}
					{other}
					proved={hidden ? undefined : proved}
					{now}
					{timeZone}
				/>
			</Answer>
		</div>

		<div class="landing">
			{#if view.result && view.counts && !hidden}
				<BandRule
					shown={bandScale(parameter.shown, band)}
					{band}
					last={last?.value ?? null}
					value={view.own?.value ?? null}
					interval={view.own?.interval ?? [null, null]}
				/>
			{/if}
			<!-- One takes the place of the other: what lies below stays where it is. -->
			{#if hidden}
				<p class="text-sm">Read what stands there; nothing is said of it yet.</p>
			{:else if (view.nowhere ?? view.far) && !view.asked.length}
				<p class="text-sm" role="status" data-testid="far">▲ {view.nowhere ?? view.far}</p>
			{:else if last}
				<p class="text-sm">
					Last: <span class="figure">{inWords(last, last.unit)}</span>, {daysAgo(
						last.takenAt,
						now,
						timeZone
					)}.
					{#if view.change}{view.change}{/if}
				</p>
			{/if}
		</div>

		<div class="controls">
			<Questions
				asked={hidden ? [] : view.asked}
				onyes={(slip, value) => changed((view.request && draftIfYes(view.request, draft, slip, value)) ?? {})}
				onno={(slip) => (settled = settledBy(settled, draft, slip))}
			/>
			<div class="entry">
				<div class="flex flex-wrap items-end gap-3">
					{#if entry}
						<Label>
							{entry.label(draft)}
							<Input
								class="figure min-h-14 w-44! text-2xl max-md:w-36!"
								bind:elementRef={field}
								inputmode={entry.inputmode}
								autocomplete="off"
								placeholder={entry.example}
								data-entry
								aria-invalid={view.problem ? 'true' : undefined}
								aria-describedby="entry-problem"
								bind:value={() => draft.text, typed}
							/>
						</Label>
					{/if}
					<Button
						type="submit"
						class="min-h-14 px-6 text-lg"
						color={doubted ? 'alternative' : 'primary'}
						disabled={!view.result || at === null}
						>{onkeep ? 'Done' : 'Save'}{doubted ? ' as it is' : ''}</Button
					>
					{#if instrument.pictured}
						<Button
							color="alternative"
							class="min-h-14 px-3"
							onclick={() => (looking = true)}
							aria-label={draft.seenShade || draft.seenPlunger
								? 'Photographed; read from another picture'
								: 'Read from a picture'}
							data-testid="camera"
							>{#if draft.seenShade || draft.seenPlunger}Photographed{:else}<span class="hidden md:inline"
									>Read from a&nbsp;</span
								>picture{/if}</Button
						>
					{/if}
				</div>
				<p
					id="entry-problem"
					class="said mt-1 min-h-6 text-sm {view.problem ? 'text-brick' : 'text-faint'}"
					class:plain={!view.problem}
					role={view.problem ? 'alert' : undefined}
				>
					{#if view.problem}▲ {view.problem}{:else}{instrument.hint}{/if}
				</p>
			</div>

			{#if !onkeep}<When {now} {timeZone} bind:at />{/if}
			{#if Convention}<Convention {...parts} />{/if}

			<Particulars {...parts} />
			{#if !hidden}<Budget budget={view.result?.budget} />{/if}
			{#if method.steps?.some((step) => step.caution)}
				<p class="mt-2 max-w-xl text-sm text-faint">
					▲ {[...new Set(method.steps.flatMap((step) => step.caution ?? []))].join(' ')} The leaflet and local rules
					rule.
				</p>
			{/if}
		</div>
	</form>
{/if}

<style>
	.bench {
		display: grid;
		grid-template-columns: minmax(0, min(22rem, 40%)) minmax(0, 1fr);
		grid-template-rows: auto auto 1fr;
		column-gap: 2rem;
		align-items: start;
	}
	.instrument {
		grid-row: 1 / 4;
		height: min(42rem, calc(100vh - 8.5rem));
		display: flex;
		justify-content: center;
	}
	.instrument.own {
		height: auto;
		align-items: start;
	}
	.landing {
		max-width: 34rem;
		min-height: 7.5rem;
	}
	@media (max-width: 48rem) {
		.bench {
			grid-template-columns: minmax(0, min(9.5rem, 40vw)) minmax(0, 1fr);
			column-gap: 0.5rem;
		}
		.instrument {
			grid-row: 1 / 3;
			height: 22rem;
		}
		/* Where the instrument takes the whole width, the answer stands above it. */
		.instrument.below {
			grid-row: auto;
			grid-column: 1 / 3;
			order: 2;
			height: auto;
		}
		.instrument.below ~ * {
			grid-column: 1 / 3;
			order: 4;
		}
		.instrument.below ~ .answer {
			order: 1;
		}
		.instrument.below ~ .controls {
			order: 3;
		}
		.answer,
		.landing {
			grid-column: 2;
		}
		/* What it says stays above, what is typed and Save stay at the thumb, while the instrument is moved between them. */
		.bench {
			padding-bottom: 5.5rem;
		}
		.answer {
			position: sticky;
			top: 0;
			z-index: 3;
			background: var(--paper);
		}
		.entry {
			position: fixed;
			inset: auto 0 var(--thumb, 3.5rem) 0;
			z-index: 5;
			padding: 0.3rem 1rem 0.4rem;
			background: var(--paper);
			border-top: 1px solid var(--rule);
		}
		.said {
			min-height: 0;
		}
		.said.plain {
			display: none;
		}
		.controls {
			grid-column: 1 / 3;
		}
	}
</style>
