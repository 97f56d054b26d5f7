<script lang="ts">
	/** A kit comes onto the shelf: how it looks, what it measures, and the chart of its leaflet. */
	import { onMount } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { type Method } from '$core/instruments';
	import { checkMethod } from '$core/methods';
	import type { Problem } from '$core/base';
	import { UNITS, formatUnit, isQuantity } from '$core/quantities';
	import { parameterOf } from '$core/catalogue';
	import { below } from '$lib/client/api';
	import { saveMethod } from '$lib/client/commands';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { takeFile } from './shared-file';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import type { KitDraft } from '$lib/ui/instruments/editor';
	import { editorOf } from '$lib/ui/instruments/editors';
	import Looks from './Looks.svelte';
	import Steps from './Steps.svelte';
	import { freshKit, kitOf, parametersFor, showing, stands, takenFrom, templatesFor } from './kit-draft';

	interface Props {
		/** What stands on the shelf already. */
		shelf: { profile: Method }[];
		/** The unit the keeper counts a parameter in. */
		unitFor: (parameter: string) => string;
		/** Ids of templates by their names. */
		templateIds: Record<string, string>;
		onsaved: (kit: { id: string; profile: Method; again: number }) => void;
	}
	let { shelf, unitFor, templateIds, onsaved }: Props = $props();

	const DRAFT = 'kit.new';
	/** What was put on the shelf just now: the page may not have it yet. */
	let added: string[] = [];
	const first = (look: string): string => {
		const have = new Set([...shelf.map((k) => k.profile.parameter), ...added]);
		const some = parametersFor(look);
		return some.find((p) => !have.has(p)) ?? some[0]!;
	};
	const begin = (look: string, parameter = first(look), template = '') =>
		freshKit(look, parameter, unitFor(parameter), template);

	let draft: KitDraft = $state.raw(begin('syringe'));
	let refused: Problem[] = $state.raw([]);
	let busy = $state(false);
	let id = uuid();

	onMount(() => {
		const kept = readDraft<KitDraft>(DRAFT);
		if (kept) draft = { ...draft, ...kept };
	});
	function change(next: KitDraft) {
		draft = next;
		refused = [];
		keepDraft(DRAFT, next);
	}
	const set = (part: Partial<KitDraft>) => change({ ...draft, ...part });

	const typed = $derived(kitOf(draft));
	const chartState = $derived(stands(typed.profile));
	const some = $derived(templatesFor(draft.look, draft.parameter));
	const other = $derived(takenFrom(draft));
	const units = $derived(
		isQuantity(draft.parameter) ? UNITS[draft.parameter].map((u) => u.name) : [draft.unit]
	);
	const { Chart, More } = $derived(editorOf(typed.profile));
	const showsItself = $derived(chartState === 'needs none');
	const flaws = $derived([
		...(draft.name.trim() === '' ? [{ path: '/name', message: 'give it the name you call it by' }] : []),
		...checkMethod(typed.profile),
		...refused
	]);
	const about = (path: string) => flaws.find((f) => f.path.startsWith(path))?.message;
	const unsaid = $derived(
		flaws.filter((f) => !['/name', '/samples', '/syringe', '/shades'].some((p) => f.path.startsWith(p)))
	);

	/** Puts a kit on the shelf, unless something is wrong with it: that is the answer. */
	async function put(profile: Method, template?: string): Promise<Problem[]> {
		const saved = await saveMethod(id, {
			profile,
			...(template ? { template } : {})
		});
		if (!saved.ok) return below('/profile', saved.problems);
		const kit = { id, profile, again: saved.value.again?.readings ?? 0 };
		added = [...added, profile.parameter];
		id = uuid();
		onsaved(kit);
		return [];
	}

	async function save(event: Event) {
		event.preventDefault();
		if (flaws.length || busy) return;
		busy = true;
		refused = await put(typed.profile, templateIds[draft.template]);
		busy = false;
		if (refused.length) return;
		keepDraft(DRAFT, undefined);
		draft = begin(draft.look);
	}

	/** A shared file is a kit with its chart. */
	async function file(event: Event) {
		const [wrong] = await takeFile(event, (profile) => put(profile as Method));
		refused = wrong ? [{ path: '', message: `${wrong.path} ${wrong.message}` }] : [];
	}
</script>

{#snippet said(path: string)}
	{#if about(path)}<span class="block text-sm text-brick" role="alert">▲ {about(path)}</span>{/if}
{/snippet}

<form onsubmit={save} class="kit" data-kit>
	<div class="looks"><Looks chosen={draft.look} onchoose={(look) => change(begin(look))} /></div>

	<div class="what">
		<Label>
			It measures
			<Select
				class="w-full"
				placeholder=""
				value={draft.parameter}
				onchange={(e) => change(begin(draft.look, e.currentTarget.value))}
			>
				{#each parametersFor(draft.look) as p (p)}<option value={p}>{parameterOf(p)?.title ?? p}</option
					>{/each}
			</Select>
		</Label>
		<Label>
			{showsItself ? 'It shows' : 'Its chart is in'}
			<Select
				class="w-full"
				placeholder=""
				value={draft.unit}
				onchange={(e) =>
					change(
						showsItself ? showing(draft, e.currentTarget.value) : { ...draft, unit: e.currentTarget.value }
					)}
			>
				{#each units as unit (unit)}<option value={unit}>{formatUnit(unit) || 'pH'}</option>{/each}
			</Select>
			{@render said('/unit')}
		</Label>
	</div>

	<div class="chart">
		<Chart {draft} profile={typed.profile} ownChart={chartState === 'own'} {said} {set} />
		{#if other}
			<Checkbox
				classes={{ div: 'mt-3 min-h-11' }}
				checked={typed.profile.takeAway !== undefined}
				onchange={(e) => set({ takeAway: e.currentTarget.checked ? other : '' })}
				>It answers for {draft.parameter} and {other} together: your last {other} test of the same water is taken
				away</Checkbox
			>
		{/if}
		<Trouble
			says={unsaid[0] && `${unsaid[0].path.replaceAll('/', ' ').trim()} ${unsaid[0].message}`.trim()}
		/>
		<div class="save">
			<Button type="submit" class="min-h-14 px-6 text-lg" disabled={busy || flaws.length > 0}
				>{chartState === 'without' ? 'Put it on the shelf without its chart' : 'Put it on the shelf'}</Button
			>
			<label class="link cursor-pointer rounded-lg px-2 text-sm">
				Import a shared file
				<input type="file" accept=".json,application/json" class="sr-only" onchange={file} />
			</label>
		</div>
		{#if chartState === 'without'}
			<p class="mt-2 max-w-prose text-sm text-faint">
				Without its chart it can be read all the same: what you see is kept, judged by nothing, and computed
				when the chart comes.
			</p>
		{/if}
	</div>

	<div class="fields">
		{#if some.length > 1}
			<Label class="wide">
				It goes like
				<Select
					class="w-full"
					placeholder=""
					value={draft.template}
					onchange={(e) =>
						change({ ...begin(draft.look, draft.parameter, e.currentTarget.value), rows: draft.rows })}
				>
					{#each some as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
				</Select>
			</Label>
		{/if}
		<Label class="wide">
			You call it
			<Input
				data-name
				class="w-full"
				value={draft.name}
				oninput={(e) => set({ name: (e.currentTarget as HTMLInputElement).value })}
			/>
			{@render said('/name')}
		</Label>
		{#if More}<More {draft} profile={typed.profile} ownChart={chartState === 'own'} {said} {set} />{/if}
	</div>
	<details class="steps">
		<summary class="min-h-11 cursor-pointer py-2 font-semibold"
			>Its steps{typed.profile.stepsBy ? ': a template’s, until you have looked at them' : ''}</summary
		>
		<Steps
			steps={typed.profile.steps ?? []}
			ofTemplate={typed.profile.stepsBy !== undefined}
			onchange={(steps) => set({ steps })}
			onsame={() => set({ sameSteps: true })}
		/>
	</details>
</form>

<style>
	.kit {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(15rem, 19rem);
		gap: 1rem 2.5rem;
		margin-top: 0.75rem;
		align-items: start;
	}
	.looks {
		grid-column: 1 / 3;
	}
	.what,
	.fields {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 0.75rem;
	}
	.what {
		max-width: 32rem;
	}
	.chart {
		grid-column: 1;
	}
	.fields {
		grid-column: 2;
		grid-row: 2 / 4;
	}
	.steps {
		grid-column: 1 / 3;
	}
	.fields :global(.wide) {
		grid-column: 1 / 3;
	}
	.save {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.5rem 1rem;
		margin-top: 0.75rem;
	}
	@media (max-width: 48rem) {
		.kit {
			grid-template-columns: minmax(0, 1fr);
			padding-bottom: 5rem;
		}
		.kit > * {
			grid-column: 1;
			grid-row: auto;
		}
		/* The thumb finds it where it always is. */
		.save {
			position: fixed;
			inset: auto 0 3.5rem 0;
			z-index: 5;
			margin: 0;
			padding: 0.4rem 1rem;
			background: var(--paper);
			border-top: 1px solid var(--rule);
		}
	}
</style>
