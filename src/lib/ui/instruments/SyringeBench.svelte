<script lang="ts">
	/** One titration: the syringe, what it says at every move, and the way to keep it. */
	import { onMount, tick } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Toast from 'flowbite-svelte/Toast.svelte';
	import {
		COVERAGE_95,
		expressedIn,
		parseSyringeEntry,
		read,
		type Measured,
		type SyringeMethod,
		type SyringeReading
	} from '$core/methods';
	import type { Outcome } from '$core/problems';
	import { formatUnit, type Parameter } from '$core/quantities';
	import { placeInBand, type Band } from '$core/targets';
	import { changeBetween } from '$core/trend';
	import type { Reading, SaveReading } from '$lib/api/readings';
	import { bandScale } from '$lib/ui/band-scale';
	import { currentTime } from '$lib/ui/clock';
	import { keepDraft, readDraft } from '$lib/ui/draft';
	import { post, takeBack } from '$lib/ui/outbox.svelte';
	import { daysAgo } from '$lib/ui/when';
	import { STATES, changeInWords, inWords, shownValue } from '$lib/ui/wording';
	import BandRule from './BandRule.svelte';
	import Syringe from './Syringe.svelte';

	interface Props {
		method: SyringeMethod;
		versionId: string;
		systemId: string;
		sourceId: string;
		parameter: Parameter;
		band: Band | undefined;
		last: Reading | undefined;
		now: string;
		timeZone: string;
	}
	let { method, versionId, systemId, sourceId, parameter, band, last, now, timeZone }: Props = $props();

	interface Draft {
		text: string;
		readAs: 'left' | 'used';
		refills: number;
		sampleSize: string;
	}
	// The parent makes this component anew for another method or water, so first values are the right ones.
	// svelte-ignore state_referenced_locally
	const { fillMl, graduationMl } = method.syringe;
	// svelte-ignore state_referenced_locally
	const draftName = `${systemId}.${sourceId}.${versionId}`;
	// svelte-ignore state_referenced_locally
	const fresh: Draft = {
		text: '',
		readAs: method.syringe.readAs,
		refills: 0,
		sampleSize: method.samples?.[0]?.id ?? 'full'
	};
	let draft = $state({ ...fresh });
	/** Whether the text came from moving the plunger: then the plunger stays where it is when the convention changes. */
	let moved = $state(false);
	let flipped = $state(false);
	let field: HTMLInputElement;
	let saved: { id: string; letterId: string; words: string; undone: boolean } | undefined = $state();

	const decimals = Math.max(2, Math.ceil(-Math.log10(graduationMl / 2) - 1e-9));
	const written = (ml: number) => {
		const onLine = Math.abs(ml / graduationMl - Math.round(ml / graduationMl)) < 1e-6;
		return ml.toFixed(onLine ? Math.max(2, decimals - 1) : decimals);
	};

	onMount(() => {
		const kept = readDraft<Draft>(draftName);
		if (kept) draft = { ...fresh, ...kept };
		flipped = readDraft<boolean>('flipped') ?? false;
	});
	function changed(part: Partial<Draft>) {
		draft = { ...draft, ...part };
		keepDraft(draftName, draft.text ? draft : undefined);
	}

	const entry = $derived(draft.text.trim() === '' ? undefined : parseSyringeEntry(draft.text, draft.readAs));
	const request = $derived(
		entry?.ok
			? {
					method,
					sample: draft.sampleSize,
					reading: { ...entry.value, ...(draft.refills ? { refills: draft.refills } : {}) } as SyringeReading
				}
			: undefined
	);
	const outcome: Outcome<Measured> | undefined = $derived(
		request ? read(request) : entry?.ok === false ? entry : undefined
	);
	const result = $derived(outcome?.ok ? outcome.value : undefined);
	const problem = $derived(outcome && !outcome.ok ? outcome.problems[0]?.message : undefined);
	const own = $derived(result ? expressedIn(result, parameter.id, parameter.unit) : undefined);

	const toLeft = (seen: SyringeReading): number | [number, number] => {
		const clamp = (ml: number) => Math.max(0, Math.min(fillMl, ml));
		if ('left' in seen) return typeof seen.left === 'number' ? clamp(seen.left) : seen.left;
		return typeof seen.used === 'number'
			? clamp(fillMl - seen.used)
			: [fillMl - seen.used[1], fillMl - seen.used[0]];
	};
	const left = $derived(entry?.ok && outcome?.ok ? toLeft(entry.value) : fillMl);
	const both = (x: number | [number, number]) =>
		typeof x === 'number' ? written(x) : `${written(x[0])} to ${written(x[1])}`;
	const used = $derived(
		typeof left === 'number' ? fillMl - left : ([fillMl - left[1], fillMl - left[0]] as [number, number])
	);

	const place = $derived(
		own?.value != null && own.standardUncertainty && band
			? placeInBand(own.value, own.standardUncertainty, band)
			: undefined
	);
	const change = $derived(
		own?.value != null && last?.value != null
			? changeBetween(
					{
						value: last.value,
						standardUncertainty: last.standardUncertainty!,
						repeatability: last.repeatability!,
						methodId: last.methodId
					},
					{
						value: own.value,
						standardUncertainty: own.standardUncertainty!,
						repeatability: own.repeatability!,
						methodId: last.methodName === method.name ? last.methodId : ''
					}
				)
			: undefined
	);
	const words = $derived(own ? shownValue(own) : undefined);
	const spoken = $derived(
		result ? `${both(left)} millilitres left, ${inWords(own!, parameter.unit)}` : 'full, nothing read yet'
	);

	function move(ml: number) {
		moved = true;
		changed({ text: written(draft.readAs === 'left' ? ml : fillMl - ml) });
	}

	/** Typed numbers are read again under the other convention; a plunger that was moved stays where it is. */
	function readAs(convention: 'left' | 'used') {
		if (convention === draft.readAs) return;
		const text =
			moved && entry?.ok && typeof left === 'number'
				? written(convention === 'left' ? left : fillMl - left)
				: draft.text;
		changed({ readAs: convention, text });
	}

	async function save(event: Event) {
		event.preventDefault();
		if (!request || !own) {
			field.focus();
			return;
		}
		const id = uuid();
		const letterId = uuid();
		const about = `${parameter.title} ${inWords(own, parameter.unit)}`;
		const body: SaveReading = {
			sourceId,
			sampleId: uuid(),
			takenAt: currentTime(now).toISOString(),
			methodVersionId: versionId,
			sampleSize: draft.sampleSize,
			reading: request.reading
		};
		post({ id: letterId, path: `/api/v1/readings/${id}`, method: 'PUT', body, about });
		saved = { id, letterId, words: about, undone: false };
		const undone = draft;
		draft = { ...fresh, readAs: undone.readAs, sampleSize: undone.sampleSize };
		keepDraft(draftName, undefined);
		keepDraft(`${draftName}.last`, undone);
		moved = false;
		await tick();
		field.focus();
	}

	/** Takes the saved reading back, and puts what was read back on the syringe. */
	function undo() {
		if (!saved) return;
		if (!takeBack(saved.letterId))
			post({
				id: uuid(),
				path: `/api/v1/readings/${saved.id}/void`,
				method: 'PUT',
				body: { reason: 'taken back right after saving' },
				about: `taking back ${saved.words}`
			});
		const before = readDraft<Draft>(`${draftName}.last`);
		if (before) changed(before);
		saved = { ...saved, undone: true };
		field.focus();
	}
</script>

<form class="bench" onsubmit={save}>
	<div class="instrument">
		<Syringe
			{fillMl}
			{graduationMl}
			{left}
			{flipped}
			readAs={draft.readAs}
			label="Plunger, {draft.readAs === 'left' ? 'what is left' : 'moving down as titrant is used'}"
			{spoken}
			onmove={move}
		/>
	</div>

	<div class="answer" aria-live="polite">
		<p class="text-sm text-faint">{parameter.title}</p>
		<p
			class="figure flex flex-wrap items-baseline gap-x-3 text-5xl font-semibold md:text-7xl"
			data-testid="value"
		>
			{#if words}
				{words.value}
				<span class="text-xl font-normal text-faint md:text-3xl"
					>{words.error} {formatUnit(parameter.unit)}</span
				>
			{:else}
				<span class="text-faint">–</span>
			{/if}
		</p>
		<p class="mt-1 min-h-6">
			{#if place}
				{@const state = STATES[place.state]}
				<span class="rounded-full px-2 py-0.5 state-{state.tone}"
					><span aria-hidden="true">{state.shape}</span>
					{state.word}</span
				>
			{/if}
			{#if result}
				<span class="text-sm text-faint"
					>left <span class="figure text-ink">{both(left)}</span> · used
					<span class="figure text-ink">{both(used)}</span>
					mL{draft.refills ? ` + ${draft.refills} full` : ''}</span
				>
			{/if}
		</p>
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
		{#if last}
			<p class="text-sm">
				Last: <span class="figure">{inWords(last, last.unit)}</span>, {daysAgo(last.takenAt, now, timeZone)}.
				{#if change}This is {changeInWords(change)}.{/if}
			</p>
		{/if}
	</div>

	<div class="controls">
		<div class="flex flex-wrap items-end gap-3">
			<label class="block">
				<span class="text-sm text-faint">Plunger’s edge, mL {draft.readAs}</span>
				<input
					bind:this={field}
					class="figure block min-h-14 w-44 rounded-lg border bg-sheet px-3 text-2xl text-ink"
					inputmode="decimal"
					autocomplete="off"
					placeholder={draft.readAs === 'left' ? '0.48' : '0.52'}
					value={draft.text}
					aria-invalid={problem ? 'true' : undefined}
					aria-describedby="entry-problem"
					oninput={(e) => {
						moved = false;
						changed({ text: e.currentTarget.value });
					}}
				/>
			</label>
			<Button type="submit" class="min-h-14 px-6 text-lg" disabled={!result}>Save</Button>
		</div>
		<p
			id="entry-problem"
			class="mt-1 min-h-6 text-sm {problem ? 'text-brick' : 'text-faint'}"
			role={problem ? 'alert' : undefined}
		>
			{#if problem}▲ {problem}{:else}Drag the plunger, or type: 0,48 · used .52 · 0.46-0.48{/if}
		</p>

		<fieldset class="mt-1">
			<legend class="text-sm text-faint"
				>This kit’s chart goes by what is {method.syringe.readAs}. I read what is</legend
			>
			<div class="mt-1 flex max-w-sm gap-2">
				{#each ['left', 'used'] as const as convention (convention)}
					<Button
						color={draft.readAs === convention ? 'primary' : 'alternative'}
						class="min-h-11 flex-1"
						aria-pressed={draft.readAs === convention}
						onclick={() => readAs(convention)}>{convention}</Button
					>
				{/each}
			</div>
		</fieldset>

		<div class="mt-3 flex flex-wrap gap-3">
			{#if (method.samples?.length ?? 0) > 1}
				<label class="text-sm text-faint">
					Sample
					<select
						class="block min-h-11 rounded-lg border bg-sheet py-1 ps-3 pe-9 text-base text-ink"
						value={draft.sampleSize}
						onchange={(e) => changed({ sampleSize: e.currentTarget.value })}
					>
						{#each method.samples ?? [] as s (s.id)}<option value={s.id}>{s.id}, {s.ml} mL</option>{/each}
					</select>
				</label>
			{/if}
			<label class="text-sm text-faint">
				Full syringes before
				<input
					type="number"
					min="0"
					max="50"
					class="figure block min-h-11 w-28 rounded-lg border bg-sheet text-base text-ink"
					value={draft.refills}
					onchange={(e) =>
						changed({ refills: Math.max(0, Math.min(50, Math.floor(e.currentTarget.valueAsNumber || 0))) })}
				/>
			</label>
			<label class="flex min-h-11 items-center gap-2 self-end text-sm">
				<input
					type="checkbox"
					class="size-5 rounded border-glass bg-sheet text-primary-700"
					checked={flipped}
					onchange={(e) => {
						flipped = e.currentTarget.checked;
						keepDraft('flipped', flipped);
					}}
				/>
				digits upside down
			</label>
		</div>

		<details class="mt-3 text-sm">
			<summary class="min-h-8 cursor-pointer text-faint">Where the error comes from</summary>
			{#if result?.budget.length}
				<table class="mt-1 w-full max-w-md">
					<caption class="sr-only">Error budget: half of a 95 % interval from each source</caption>
					<tbody>
						{#each result.budget as part (part.source)}
							<tr class="border-t">
								<th scope="row" class="py-1 text-start font-normal">{part.source}</th>
								<td class="py-1 text-faint"
									>{part.kind === 'trueness' ? 'stays with the kit' : 'anew each test'}</td
								>
								<td class="figure py-1 text-end"
									>± {(COVERAGE_95 * part.standardUncertainty).toPrecision(2)}</td
								>
							</tr>
						{/each}
					</tbody>
				</table>
			{:else}
				<p class="text-faint">Set the plunger first.</p>
			{/if}
		</details>
	</div>
</form>

{#if saved}
	{#key saved.id}
		<Toast
			class="fixed end-4 bottom-20 z-20 max-w-sm border bg-sheet text-ink md:bottom-6"
			dismissable={false}
			align={false}
		>
			<div class="flex items-center gap-4" role="status" data-testid="saved">
				<span>{saved.undone ? `Taken back: ${saved.words}` : `Saved: ${saved.words}`}</span>
				{#if !saved.undone}<Button size="sm" color="alternative" class="min-h-11" onclick={undo}>Undo</Button
					>{/if}
			</div>
		</Toast>
	{/key}
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
	.landing {
		max-width: 34rem;
		min-height: 7.5rem;
	}
	.state-moss {
		background: var(--moss-wash);
	}
	.state-saffron {
		background: var(--saffron-wash);
	}
	.state-brick {
		background: var(--brick-wash);
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
		.answer,
		.landing {
			grid-column: 2;
		}
		.controls {
			grid-column: 1 / 3;
		}
	}
</style>
