<script lang="ts">
	/** A reference of one's own: what stands on its label, or the salt that was weighed in. */
	import { invalidateAll } from '$app/navigation';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { READS_BY, type ReadsBy } from '$core/quality';
	import type { Problem } from '$core/base';
	import { formatUnit, type Quantity } from '$core/quantities';
	import { titleOf } from '$core/catalogue';
	import { saveWater } from '$lib/client/commands';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { unitFor } from '$lib/ui/habits';
	import { readsByInWords } from '$lib/ui/words/checks';
	import { NO_REFERENCE, contentOf, type ReferenceDraft } from './reference-content';

	interface Props {
		parameter: Quantity;
		/** The parameter's own unit. */
		own: string;
		system: string;
	}
	let { parameter: of, own, system }: Props = $props();
	const unit = $derived(unitFor(of));
	const title = $derived(titleOf(of));

	let how: 'label' | 'weighed' = $state('label');
	let typed: ReferenceDraft = $state({ ...NO_REFERENCE });
	interface Asked {
		name: keyof typeof typed;
		label: string;
		hint?: string;
		type?: 'date';
		text?: boolean;
	}
	const ABOUT: Asked[] = [
		{ name: 'name', label: 'Its name', text: true },
		{ name: 'until', label: 'Good until', type: 'date' }
	];
	const LABEL: Asked[] = $derived([
		{ name: 'value', label: `${title}, ${formatUnit(unit)}` },
		{ name: 'error', label: 'Right within ±' }
	]);
	/** Sodium chloride is a salinity for the instruments it was mixed for. */
	let by: ReadsBy = $state('refraction');
	const WEIGHED: Asked[] = $derived([
		{
			name: 'salt',
			label: 'Salt, by its formula',
			hint: of === 'salinity' ? 'NaCl, pure and dry' : 'for example KCl',
			text: true
		},
		{ name: 'grams', label: 'Weighed in, g', hint: 'by a scale with a tenth of a gram' },
		{ name: 'litres', label: 'Filled up to, L', hint: 'of purified water' }
	]);
	let problems: Problem[] = $state([]);
	let saved = $state(false);
	const at = (path: string) => problems.find((p) => p.path === path)?.message;
	async function save(event: Event) {
		event.preventDefault();
		saved = false;
		const content = contentOf(typed, how, { parameter: of, own, unit, by });
		if (!content.ok) return void (problems = content.problems);
		const done = await saveWater(uuid(), {
			systemId: system,
			kind: 'reference',
			name: typed.name.trim(),
			content: {
				values: { [of]: content.value },
				...(typed.until ? { until: typed.until } : {}),
				...(of === 'salinity' && how === 'weighed' ? { readsBy: by } : {})
			}
		});
		problems = done.ok ? [] : done.problems;
		saved = done.ok;
		if (!done.ok) return;
		typed = { ...NO_REFERENCE };
		await invalidateAll();
	}
</script>

<form onsubmit={save} class="mt-2" aria-label="Another reference">
	<div role="radiogroup" aria-label="How it is known" class="flex gap-1">
		{#each [['label', 'By its label'], ['weighed', 'By weighing salt']] as const as [id, name] (id)}
			<Button
				size="sm"
				role="radio"
				aria-checked={how === id}
				color={how === id ? 'primary' : 'alternative'}
				onclick={() => (how = id)}>{name}</Button
			>
		{/each}
	</div>
	<div class="grid grid-cols-2 gap-x-4">
		{#each [...ABOUT, ...(how === 'label' ? LABEL : WEIGHED)] as f (f.name)}
			<Field
				name={f.name}
				label={f.label}
				type={f.type ?? 'text'}
				inputmode={f.type || f.text ? 'text' : 'decimal'}
				maxlength={120}
				value={typed[f.name]}
				problem={at(`/${f.name}`)}
				{...f.hint ? { hint: f.hint } : {}}
				oninput={(e) => (typed[f.name] = (e.currentTarget as HTMLInputElement).value)}
			/>
		{/each}
		{#if of === 'salinity' && how === 'weighed'}
			<Label class="mt-3">
				For which instrument
				<Select placeholder="" bind:value={by}>
					{#each READS_BY as id (id)}<option value={id}>{readsByInWords(id)}</option>{/each}
				</Select>
			</Label>
		{/if}
	</div>
	{#each problems.filter((p) => !(p.path.slice(1) in typed)) as p (p.path)}
		<Trouble says="{p.path} {p.message}" />
	{/each}
	<p class="mt-2 flex items-center gap-3">
		<Button type="submit">Save the reference</Button>
		{#if saved}<span class="text-sm text-moss" role="status">✓ Saved. Check a kit with it now.</span>{/if}
	</p>
</form>
