<script lang="ts">
	/** What else belongs to a reading: the sample's size, what its kind of instrument has besides, dilution. */
	import Select from 'flowbite-svelte/Select.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import { DILUTION_VESSELS, type Dilution } from '$core/instruments';
	import { isSolute } from '$core/catalogue';
	import { viewOf } from './all';
	import type { Draft } from './draft';
	import NumberField from './NumberField.svelte';
	import type { PartProps } from './view';

	const VESSEL_NAMES: Record<NonNullable<Dilution['vessel']>, string> = {
		'syringe-1': 'a 1 mL syringe',
		'syringe-5': 'a 5 mL syringe',
		pipette: 'a pipette',
		line: 'a line on the vial'
	};

	let { method, parameter, draft, view, flipped, moved, onchange, onflip }: PartProps = $props();
	const { Fields } = $derived(viewOf(method));
	/** What was typed there opens it; nothing but a hand closes it, so a page that is read anew leaves it open. */
	let unfolded = $state(false);
	$effect(() => {
		if (draft.thinnedMl !== '' || draft.withMl !== '') unfolded = true;
	});
</script>

<div class="mt-3 flex flex-wrap gap-3">
	{#if (method.samples?.length ?? 0) > 1}
		<Label>
			Sample
			<Select
				class="text-base"
				placeholder=""
				value={draft.sampleSize}
				onchange={(e) => onchange({ sampleSize: e.currentTarget.value })}
			>
				{#each method.samples ?? [] as s (s.id)}<option value={s.id}>{s.id}, {s.ml} mL</option>{/each}
			</Select>
		</Label>
	{/if}
	{#if Fields}<Fields {method} {parameter} {draft} {view} {moved} {flipped} {onchange} {onflip} />{/if}
</div>

{#if isSolute(parameter.id)}
	<details class="mt-3 text-sm" bind:open={unfolded}>
		<summary class="min-h-11 cursor-pointer py-2.5 text-faint">Diluted with purified water</summary>
		<div class="flex flex-wrap items-end gap-3">
			<NumberField
				label="mL of the water"
				example="1"
				text={draft.thinnedMl}
				ontext={(thinnedMl) => onchange({ thinnedMl })}
			/>
			<NumberField
				label="with mL of purified"
				example="9"
				text={draft.withMl}
				ontext={(withMl) => onchange({ withMl })}
			/>
			<Label>
				drawn with
				<Select
					class="text-base"
					placeholder=""
					value={draft.drawnWith}
					onchange={(e) => onchange({ drawnWith: e.currentTarget.value as Draft['drawnWith'] })}
				>
					<option value="">anything</option>
					{#each DILUTION_VESSELS as vessel (vessel)}<option value={vessel}>{VESSEL_NAMES[vessel]}</option
						>{/each}
				</Select>
			</Label>
		</div>
	</details>
{/if}
