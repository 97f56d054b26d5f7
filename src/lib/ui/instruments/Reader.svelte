<script lang="ts">
	/** One test by any method: its instrument, what it says at every move, was it misread, and the way to keep it. */
	import { onMount, tick } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import {
		COVERAGE_95,
		expressedIn,
		read,
		type Expected,
		type Measured,
		type Method,
		type ReadingRequest,
		type SyringeReading,
		type Water
	} from '$core/methods';
	import type { Outcome } from '$core/problems';
	import { formatUnit, type Parameter } from '$core/quantities';
	import { questions } from '$core/slips';
	import { placeInBand, type Band } from '$core/targets';
	import { changeBetween } from '$core/trend';
	import { savingReading, voiding } from '$lib/client/commands';
	import type { EarlierReading, SaveReading } from '$lib/api/readings';
	import { bandScale } from '$lib/ui/band-scale';
	import { currentTime } from '$lib/ui/clock';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { post, takeBack } from '$lib/ui/outbox.svelte';
	import { daysAgo } from '$lib/ui/when';
	import { changeInWords, inWords, shownValue } from '$lib/ui/wording';
	import { farInWords } from '$lib/ui/words/judgements';
	import { answeredYes } from './answered';
	import Answer from './Answer.svelte';
	import BandRule from './BandRule.svelte';
	import Budget from './Budget.svelte';
	import { ENTRY } from './entry-words';
	import { freshDraft, readingOf, type Draft } from './draft-reading';
	import { expectedFor } from './expected';
	import Drops from './Drops.svelte';
	import Meter from './Meter.svelte';
	import type { OtherReading } from './other';
	import Particulars from './Particulars.svelte';
	import Questions from './Questions.svelte';
	import Saved from './Saved.svelte';
	import ScaleLine from './ScaleLine.svelte';
	import Shades from './Shades.svelte';
	import { complement, written, writtenBoth, type Plunger } from './syringe-text';
	import Syringe from './Syringe.svelte';

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
		now: string;
		timeZone: string;
		/** A second titrant that goes on in the same vial: its name and where it is read. */
		next: { name: string; href: string } | undefined;
		/** What a quick line understood, to begin with. */
		begin?: Partial<Draft> | undefined;
		/** Takes the reading instead of saving it: an evening keeps its results itself. */
		onkeep?: ((taken: Pick<SaveReading, 'reading' | 'sampleSize' | 'takenAwayId'>) => void) | undefined;
		/** Under which name the draft is kept, where it belongs to more than this method and water. */
		draftKey?: string | undefined;
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
		now,
		timeZone,
		next,
		begin,
		onkeep,
		draftKey
	}: Props = $props();

	// The parent makes this component anew for another method or water, so first values are the right ones.
	// svelte-ignore state_referenced_locally
	const draftName = draftKey ?? `${systemId}.${sourceId}.${versionId}`;
	// svelte-ignore state_referenced_locally
	const fresh = freshDraft(method);
	let draft = $state({ ...fresh });
	/** Whether the text came from moving the instrument: then it stays where it is when the convention changes. */
	let moved = $state(false);
	let flipped = $state(false);
	/** Questions the keeper has answered with no. */
	let settled: string[] = $state([]);
	let field: HTMLInputElement | undefined = $state();
	let saved: { id: string; writeId: string; words: string; undone: boolean } | undefined = $state();
	const last = $derived(earlier[0]);

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
		changed({ text });
	}

	const seen = $derived(readingOf(method, draft));
	const expected: Expected | undefined = $derived(expectedFor(method, parameter.id, parameter.unit, level));
	const request: ReadingRequest | undefined = $derived(
		seen?.ok
			? {
					method,
					reading: seen.value,
					...(method.samples ? { sample: draft.sampleSize } : {}),
					...(other?.value != null && other.standardUncertainty !== null
						? {
								other: {
									[other.parameter]: { value: other.value, standardUncertainty: other.standardUncertainty }
								}
							}
						: {}),
					...(expected ? { expected } : {}),
					...(water === 'tank' ? {} : { water })
				}
			: undefined
	);
	const outcome: Outcome<Measured> | undefined = $derived(
		request ? read(request) : seen?.ok === false ? seen : undefined
	);
	const result = $derived(outcome?.ok ? outcome.value : undefined);
	const problem = $derived(outcome && !outcome.ok ? outcome.problems[0]?.message : undefined);
	const own = $derived(result ? expressedIn(result, parameter.id, parameter.unit) : undefined);
	const asked = $derived(
		request && result
			? questions(request, result).filter((q) => !settled.includes(`${draft.text}/${q.slip}`))
			: []
	);

	const place = $derived(
		own?.value != null && own.standardUncertainty && band
			? placeInBand(own.value, own.standardUncertainty, band)
			: undefined
	);
	const change = $derived(
		own?.value != null && last?.value != null && last.standardUncertainty && last.repeatability
			? changeBetween(
					{
						value: last.value,
						standardUncertainty: last.standardUncertainty,
						repeatability: last.repeatability,
						methodId: last.methodId
					},
					{
						value: own.value,
						standardUncertainty: own.standardUncertainty!,
						repeatability: own.repeatability!,
						methodId
					}
				)
			: undefined
	);
	const far = $derived(
		own?.value != null && own.standardUncertainty
			? farInWords(
					{ value: own.value, standardUncertainty: own.standardUncertainty },
					level,
					last,
					now,
					timeZone
				)
			: undefined
	);
	const words = $derived(own ? shownValue(own) : undefined);
	const spoken = $derived(own ? inWords(own, parameter.unit) : 'nothing read yet');

	// The syringe alone shows one number two ways.
	const fillMl = $derived(method.reads === 'syringe' ? method.syringe.fillMl : 1);
	const graduationMl = $derived(method.reads === 'syringe' ? method.syringe.graduationMl : 0.01);
	const left: Plunger = $derived.by(() => {
		if (!seen?.ok || !outcome?.ok) return fillMl;
		const reading = seen.value as SyringeReading;
		return 'left' in reading ? reading.left : 'used' in reading ? complement(reading.used, fillMl) : fillMl;
	});

	function move(ml: number) {
		moved = true;
		changed({ text: written(draft.readAs === 'left' ? ml : fillMl - ml, graduationMl) });
	}

	/** Typed numbers are read again under the other convention; a plunger that was moved stays where it is. */
	function readAs(convention: 'left' | 'used') {
		if (convention === draft.readAs) return;
		const text =
			moved && outcome?.ok && typeof left === 'number'
				? written(convention === 'left' ? left : fillMl - left, graduationMl)
				: draft.text;
		changed({ readAs: convention, text });
	}

	function yes(slip: string, value: number) {
		const meant =
			request &&
			answeredYes(request, slip, value, (r) => {
				const there = read(r);
				return there.ok ? there.value.value : null;
			});
		if (meant) changed(meant);
	}
	async function save(event: Event) {
		event.preventDefault();
		if (!request || !own) {
			field?.focus();
			return;
		}
		const taken = {
			...(method.samples ? { sampleSize: draft.sampleSize } : {}),
			reading: request.reading,
			...(method.takeAway && other ? { takenAwayId: other.id } : {})
		};
		if (onkeep) {
			keepDraft(draftName, undefined);
			onkeep(taken);
			return;
		}
		const id = uuid();
		const about = `${parameter.title} ${inWords(own, parameter.unit)}`;
		const body: SaveReading = {
			sourceId,
			sampleId: uuid(),
			takenAt: currentTime(now).toISOString(),
			methodVersionId: versionId,
			...taken
		};
		const write = savingReading(id, body, about);
		post(write);
		saved = { id, writeId: write.id, words: about, undone: false };
		keepDraft(`${draftName}.last`, draft);
		draft = { ...fresh, readAs: draft.readAs, sampleSize: draft.sampleSize, placed: draft.placed };
		keepDraft(draftName, undefined);
		moved = false;
		settled = [];
		await tick();
		field?.focus();
	}

	/** Takes the saved reading back, and puts what was read back on the instrument. */
	function undo() {
		if (!saved) return;
		if (!takeBack(saved.writeId))
			post(voiding('readings', saved.id, 'taken back right after saving', `taking back ${saved.words}`));
		const before = readDraft<Draft>(`${draftName}.last`);
		if (before) changed(before);
		saved = { ...saved, undone: true };
		field?.focus();
	}

	const entry = $derived(ENTRY[method.reads]);
</script>

<form class="bench" onsubmit={save}>
	<div class="instrument {method.reads}">
		{#if method.reads === 'syringe'}
			<Syringe
				{fillMl}
				{graduationMl}
				{left}
				{flipped}
				readAs={draft.readAs}
				label="Plunger, {draft.readAs === 'left' ? 'what is left' : 'moving down as titrant is used'}"
				spoken={result
					? `${writtenBoth(left, graduationMl)} millilitres left, ${spoken}`
					: 'full, nothing read yet'}
				onmove={move}
			/>
		{:else if method.reads === 'drops'}
			<Drops {method} {draft} {spoken} onchange={changed} />
		{:else if method.reads === 'shades'}
			<Shades {method} {draft} {spoken} onchange={changed} />
		{:else if method.reads === 'display'}
			<Meter {method} {draft} onchange={changed} />
		{:else}
			<ScaleLine {method} {draft} {spoken} onchange={changed} />
		{/if}
	</div>

	<div class="answer" aria-live="polite">
		<Answer title={parameter.title} unit={parameter.unit} {words} state={place?.state}>
			{#if result && method.reads === 'syringe'}
				<span class="text-sm text-faint"
					>left <span class="figure text-ink">{writtenBoth(left, graduationMl)}</span> · used
					<span class="figure text-ink">{writtenBoth(complement(left, fillMl), graduationMl)}</span>
					mL{draft.refills ? ` + ${draft.refills} full` : ''}</span
				>
			{:else if result && 'display' in method && method.display.unit !== parameter.unit && seen?.ok && 'shown' in seen.value}
				<span class="text-sm text-faint"
					>from <span class="figure text-ink">{draft.text}</span> {formatUnit(method.display.unit)}</span
				>
			{/if}
			{#if method.takeAway}
				<span class="text-sm text-faint">
					{other
						? `${other.parameter} ${inWords(other, other.unit)}, ${daysAgo(other.takenAt, now, timeZone)}, taken away`
						: `measure ${method.takeAway.parameter} first: it is taken away`}
				</span>
			{/if}
		</Answer>
	</div>

	<div class="landing">
		{#if result}
			<BandRule
				shown={bandScale(parameter.shown, band)}
				{band}
				last={last?.value ?? null}
				value={own?.value ?? null}
				interval={own?.interval ?? [null, null]}
			/>
		{/if}
		<!-- One takes the place of the other: what lies below stays where it is. -->
		{#if far && !asked.length}
			<p class="text-sm" role="status" data-testid="far">▲ {far}</p>
		{:else if last}
			<p class="text-sm">
				Last: <span class="figure">{inWords(last, last.unit)}</span>, {daysAgo(last.takenAt, now, timeZone)}.
				{#if change}This is {changeInWords(change, COVERAGE_95 * (own?.standardUncertainty ?? 0))}.{/if}
			</p>
		{/if}
	</div>

	<div class="controls">
		<Questions {asked} onyes={yes} onno={(slip) => (settled = [...settled, `${draft.text}/${slip}`])} />
		<div class="flex flex-wrap items-end gap-3">
			{#if method.reads !== 'display'}
				<Label>
					{entry.label}{method.reads === 'syringe' ? ` ${draft.readAs}` : ''}
					<Input
						class="figure w-44!"
						bind:elementRef={field}
						inputmode={method.reads === 'shades' ? 'text' : 'decimal'}
						autocomplete="off"
						placeholder={entry.example}
						data-entry
						aria-invalid={problem ? 'true' : undefined}
						aria-describedby="entry-problem"
						bind:value={() => draft.text, typed}
					/>
				</Label>
			{/if}
			<Button
				type="submit"
				class="min-h-14 px-6 text-lg"
				color={asked.length ? 'alternative' : 'primary'}
				disabled={!result}>{onkeep ? 'Done' : 'Save'}{asked.length ? ' as it is' : ''}</Button
			>
		</div>
		<p
			id="entry-problem"
			class="mt-1 min-h-6 text-sm {problem ? 'text-brick' : 'text-faint'}"
			role={problem ? 'alert' : undefined}
		>
			{#if problem}▲ {problem}{:else}{entry.hint}{/if}
		</p>

		{#if method.reads === 'syringe'}
			<fieldset class="mt-1">
				<legend class="text-sm text-faint"
					>This kit’s chart goes by what is {method.syringe.readAs}. I read what is</legend
				>
				<div class="mt-1 flex max-w-sm gap-2">
					{#each ['left', 'used'] as const as convention (convention)}
						<Button
							color={draft.readAs === convention ? 'primary' : 'alternative'}
							class="flex-1"
							aria-pressed={draft.readAs === convention}
							onclick={() => readAs(convention)}>{convention}</Button
						>
					{/each}
				</div>
			</fieldset>
		{/if}

		<Particulars
			{method}
			{parameter}
			{draft}
			{flipped}
			onchange={changed}
			onflip={(now) => {
				flipped = now;
				keepDraft('flipped', now);
			}}
		/>
		<Budget budget={result?.budget} />
		{#if method.steps?.some((step) => step.caution)}
			<p class="mt-2 max-w-xl text-sm text-faint">
				▲ {[...new Set(method.steps.flatMap((step) => step.caution ?? []))].join(' ')} The leaflet and local rules
				rule.
			</p>
		{/if}
	</div>
</form>

{#if saved}
	<Saved {...saved} {next} onundo={undo} />
{/if}

<style>
	.bench {
		display: grid;
		grid-template-columns: minmax(15rem, 22rem) minmax(0, 1fr);
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
	.instrument.display,
	.instrument.shades {
		height: auto;
		align-items: start;
	}
	.landing {
		max-width: 34rem;
		min-height: 7.5rem;
	}
	@media (max-width: 48rem) {
		.bench {
			grid-template-columns: 9.5rem minmax(0, 1fr);
			column-gap: 0.5rem;
		}
		.instrument {
			grid-row: 1 / 3;
			height: 22rem;
		}
		/* Where the instrument takes the whole width, the answer stands above it; drops fill the lower half of the screen. */
		.instrument:is(.drops, .shades, .display) {
			grid-row: auto;
			grid-column: 1 / 3;
			order: 2;
			height: auto;
		}
		.instrument:is(.drops, .shades, .display) ~ * {
			grid-column: 1 / 3;
			order: 4;
		}
		.instrument:is(.drops, .shades, .display) ~ .answer {
			order: 1;
		}
		.instrument:is(.drops, .shades, .display) ~ .controls {
			order: 3;
		}
		.answer,
		.landing {
			grid-column: 2;
		}
		.controls {
			grid-column: 1 / 3;
		}
	}
</style>
