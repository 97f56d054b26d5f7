<script lang="ts">
	/** A method as a form; saving it makes a version. What is typed survives a reload. */
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Radio from 'flowbite-svelte/Radio.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { type Method } from '$core/instruments';
	import { TITRATED_TOGETHER, checkMethod, hasOwnChart, needsChart, timesTaken } from '$core/methods';
	import type { Problem } from '$core/base';
	import { UNITS, formatUnit, isQuantity } from '$core/quantities';
	import { PARAMETERS, nameInSentence } from '$core/catalogue';
	import { below } from '$lib/client/api';
	import { saveMethod } from '$lib/client/commands';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { freshMethod, slugOf } from './fresh-method';
	import { KINDS, editorOf } from '$lib/ui/instruments/editors';
	import { rowsOf, type ChartTyped, type Row } from './chart-rows';
	import { isTitrated } from './kit-draft';
	import { number } from './typed';
	import Leaflet from './Leaflet.svelte';
	import Steps from './Steps.svelte';

	interface Props {
		start: Method;
		id: string;
		basedOn: number;
		shelf: string;
	}
	let { start, id, basedOn, shelf }: Props = $props();

	// svelte-ignore state_referenced_locally
	const draftName = basedOn === 0 ? 'method.new' : `method.${id}`;
	// svelte-ignore state_referenced_locally
	let method: Method = $state(structuredClone($state.snapshot(start) as Method));
	let refused: Problem[] = $state([]);
	let busy = $state(false);
	let touched = $state(false);

	onMount(() => {
		const kept = readDraft<Method>(draftName);
		if (kept) method = kept;
	});
	const change = (part: Partial<Method>) => put({ ...method, ...part } as Method);
	/** Read by another instrument it is another method: nothing of the first one's glass stays. */
	const readBy = (reads: Method['reads']) => put({ ...freshMethod(reads, method), id: method.id });
	function put(next: Method) {
		method = next;
		touched = true;
		keepDraft(draftName, method);
	}

	const editor = $derived(editorOf(method));
	const { Fields, lined } = $derived(editor);
	const units = $derived(
		isQuantity(method.parameter) ? UNITS[method.parameter].map((u) => u.name) : [method.unit]
	);
	const flaws = $derived([
		...(method.name.trim() === '' ? [{ path: '/name', message: 'give it the name you call it by' }] : []),
		...checkMethod(method),
		...refused
	]);
	const about = (path: string) => flaws.filter((f) => f.path.startsWith(path))[0]?.message;

	// svelte-ignore state_referenced_locally
	let rows: Row[] = $state.raw(rowsOf(start));
	/** The leaflet's lines: a hand opens and closes them, not a page that is read anew. */
	// svelte-ignore state_referenced_locally
	let unfolded = $state(basedOn === 0 || !hasOwnChart(start));
	let checked: string | undefined = $state();
	/** A scale that comes from the leaflet is the keeper's. */
	function lines(next: Row[], typed: ChartTyped) {
		rows = next;
		if (typed.fit && !typed.open && lined) own(lined.charted(method, typed.fit, typed.points));
	}
	/** What is typed over a template's scale is the keeper's own. */
	const own = (part: Partial<Method>) => change({ ...part, chart: undefined } as Partial<Method>);
	/** Another chart than before: another batch's, or the one before was typed wrong. */
	let again = $state(false);
	const scaleOf = (m: Method) => JSON.stringify(editorOf(m).scaleOf(m));
	const otherChart = $derived(
		basedOn > 0 && hasOwnChart(start) && needsChart(method.reads) && scaleOf(method) !== scaleOf(start)
	);

	const takes = (parameter: string) =>
		change({
			takeAway: parameter ? { parameter, times: timesTaken(method.parameter, parameter) } : undefined
		} as Partial<Method>);

	const steps = $derived(method.steps ?? []);

	async function save(event: Event) {
		event.preventDefault();
		touched = true;
		refused = [];
		if (flaws.length) return;
		busy = true;
		const profile = { ...method, id: slugOf(method.name, method.parameter), name: method.name.trim() };
		const saved = await saveMethod(id, {
			profile,
			basedOn,
			...(otherChart && again ? { again } : {})
		});
		busy = false;
		if (!saved.ok) {
			refused = below('/profile', saved.problems);
			return;
		}
		keepDraft(draftName, undefined);
		await goto(shelf, { invalidateAll: true });
	}
</script>

{#snippet said(path: string)}
	{#if touched && about(path)}<span class="block text-sm text-brick" role="alert">▲ {about(path)}</span>{/if}
{/snippet}

{#snippet field(
	label: string,
	value: string | number | undefined,
	path: string,
	onset: (text: string) => void,
	hint = ''
)}
	<Label>
		{label}
		<Input
			value={value === undefined || (typeof value === 'number' && Number.isNaN(value)) ? '' : value}
			title={hint}
			onchange={(e) => onset(e.currentTarget.value)}
		/>
		{@render said(path)}
	</Label>
{/snippet}

<form onsubmit={save} class="mt-3 grid max-w-5xl gap-5">
	<div class="grid gap-3 md:grid-cols-4">
		<div class="md:col-span-2">
			{@render field('Name', method.name, '/name', (name) => change({ name }))}
		</div>
		<Label>
			Measures
			<Select
				placeholder=""
				value={method.parameter}
				disabled={basedOn > 0}
				onchange={(e) => {
					const p = PARAMETERS.find((x) => x.id === e.currentTarget.value)!;
					change({ parameter: p.id, unit: p.unit });
				}}
			>
				{#each PARAMETERS as p (p.id)}<option value={p.id}>{p.title}</option>{/each}
			</Select>
		</Label>
		<Label>
			in
			<Select placeholder="" value={method.unit} onchange={(e) => change({ unit: e.currentTarget.value })}>
				{#each units as unit (unit)}<option value={unit}>{formatUnit(unit) || 'pH'}</option>{/each}
			</Select>
			{@render said('/unit')}
		</Label>
	</div>

	<fieldset>
		<legend class="text-sm text-faint">Read by</legend>
		<div class="mt-1 flex flex-wrap gap-2">
			{#each KINDS as reads (reads)}
				<Button
					color={method.reads === reads ? 'primary' : 'alternative'}
					aria-pressed={method.reads === reads}
					onclick={() => reads !== method.reads && readBy(reads)}>{editorOf({ reads }).title}</Button
				>
			{/each}
		</div>
	</fieldset>

	{#if !hasOwnChart(method)}
		<p class="rounded-lg bg-saffron-wash px-3 py-2" role="status">
			○ The scale below is a template’s, not your kit’s: what is read by it is kept and judged by nothing. {editor.typeOwn}
		</p>
	{/if}
	<Fields {method} {units} {field} {said} onchange={change} onscale={own} />

	{#if lined}
		<details bind:open={unfolded}>
			<summary class="min-h-11 cursor-pointer py-2 font-semibold"
				>{basedOn > 0 && hasOwnChart(start)
					? 'The chart, line by line'
					: 'From the leaflet in your hand'}</summary
			>
			<Leaflet
				parameter={method.parameter}
				unit={method.unit}
				reads={lined.reads}
				fillMl={lined.fillMl(method)}
				{rows}
				{checked}
				ontyped={lines}
				oncheck={(said, typed) => {
					checked = said;
					lines(rows, typed);
				}}
			/>
		</details>
		{@const samples = method.samples ?? []}
		<div class="grid gap-3 md:grid-cols-4">
			{@render field('Full sample, mL', samples[0]?.ml, '/samples', (t) =>
				change({ samples: [{ id: 'full', ml: number(t), times: 1 }, ...samples.slice(1)] })
			)}
			{@render field('Half sample, mL, if it has one', samples[1]?.ml, '/samples/1', (t) =>
				change({
					samples: [
						samples[0] ?? { id: 'full', ml: 5, times: 1 },
						...(t.trim() ? [{ id: 'half', ml: number(t), times: (samples[0]?.ml ?? 5) / number(t) }] : [])
					]
				})
			)}
		</div>
	{/if}

	{#if isTitrated(method)}
		{@const others = PARAMETERS.filter((p) => p.id !== method.parameter && TITRATED_TOGETHER.includes(p.id))}
		<div class="flex flex-wrap items-end gap-3" data-testid="takes-away">
			<Label>
				Taken away from its answer
				<Select
					placeholder=""
					value={method.takeAway?.parameter ?? ''}
					onchange={(e) => takes(e.currentTarget.value)}
				>
					<option value="">none</option>
					{#each others as p (p.id)}<option value={p.id}>{p.title}</option>{/each}
				</Select>
			</Label>
			{#if method.takeAway}
				{@const taken = method.takeAway}
				{@render field('so many times', Number(taken.times.toPrecision(5)), '/takeAway', (t) =>
					change({ takeAway: { ...taken, times: number(t) } })
				)}
				<p class="max-w-prose text-sm text-faint">
					By your last {nameInSentence(taken.parameter)} test of the same water, by whichever kit.
				</p>
			{/if}
		</div>
	{/if}

	<Steps
		{steps}
		ofTemplate={method.stepsBy !== undefined}
		onchange={(steps) => change({ steps, stepsBy: undefined })}
		onsame={() => change({ stepsBy: undefined })}
	/>

	<div class="grid gap-3 md:grid-cols-4">
		{@render field('Tests in a pack', method.pack?.tests, '/pack', (t) =>
			change({ pack: { price: method.pack?.price ?? 0, tests: Math.max(1, Math.round(number(t) || 1)) } })
		)}
		{@render field('Price of a pack', method.pack?.price, '/pack', (t) =>
			change({ pack: { tests: method.pack?.tests ?? 1, price: Math.max(0, number(t) || 0) } })
		)}
	</div>

	{#if otherChart}
		<fieldset class="grid gap-1" data-testid="other-chart">
			<legend class="text-sm text-faint">Another chart than in version {basedOn}</legend>
			<Radio name="again" checked={!again} onchange={() => (again = false)}
				>of another batch: earlier readings keep theirs</Radio
			>
			<Radio name="again" checked={again} onchange={() => (again = true)}
				>the one before was wrong: compute what was read by it again</Radio
			>
		</fieldset>
	{/if}
	<div class="flex flex-wrap items-center gap-3">
		<Button type="submit" class="min-h-14 px-6 text-lg" disabled={busy}
			>{basedOn ? 'Save as a new version' : 'Put it on the shelf'}</Button
		>
		<a href={shelf} class="link px-2">Back to the shelf</a>
		{#if touched && flaws.length}
			<p class="text-sm text-brick" role="alert">
				▲ {flaws[0]!.path.replaceAll('/', ' ').trim()}
				{flaws[0]!.message}
			</p>
		{/if}
	</div>
</form>
