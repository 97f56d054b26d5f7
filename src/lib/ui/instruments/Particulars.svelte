<script lang="ts">
	/** What else belongs to a reading: the sample's size, full syringes, how a scale was checked, dilution. */
	import Select from 'flowbite-svelte/Select.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import { DILUTION_VESSELS, type Dilution, type Method } from '$core/methods';
	import { formatUnit } from '$core/quantities';
	import { type Parameter, isSolute } from '$core/catalogue';
	import { figures, unitFor } from '$lib/ui/habits';
	import { valueFor } from '$lib/ui/mine';
	import type { Draft } from './draft-reading';

	const VESSEL_NAMES: Record<NonNullable<Dilution['vessel']>, string> = {
		'syringe-1': 'a 1 mL syringe',
		'syringe-5': 'a 5 mL syringe',
		pipette: 'a pipette',
		line: 'a line on the vial'
	};

	interface Props {
		method: Method;
		parameter: Parameter;
		draft: Draft;
		flipped: boolean;
		onchange: (part: Partial<Draft>) => void;
		onflip: (flipped: boolean) => void;
	}
	let { method, parameter, draft, flipped, onchange, onflip }: Props = $props();
	/** A standard of 35 PSU, in the unit the scale is read in. */
	const standard = $derived('display' in method && method.display.unit === 'PSU' ? '35' : '1.0264');
</script>

{#snippet number(
	key: 'temperature' | 'standard' | 'standardShown' | 'thinnedMl' | 'withMl',
	label: string,
	example: string
)}
	<Label>
		{label}
		<Input
			class="figure w-28!"
			inputmode="decimal"
			placeholder={example}
			bind:value={() => draft[key], (text) => onchange({ [key]: text })}
		/>
	</Label>
{/snippet}

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
	{#if method.reads === 'syringe'}
		<Label>
			Full syringes before
			<Input
				class="figure w-28!"
				type="number"
				min="0"
				max="50"
				value={draft.refills}
				onchange={(e) =>
					onchange({ refills: Math.max(0, Math.min(50, Math.floor(e.currentTarget.valueAsNumber || 0))) })}
			/>
		</Label>
		<Checkbox
			classes={{ div: 'self-end' }}
			checked={flipped}
			onchange={(e) => onflip(e.currentTarget.checked)}>digits upside down</Checkbox
		>
	{/if}
	{#if method.reads === 'scale-line' && parameter.id === 'salinity'}
		{#if method.display.hydrometerC !== undefined}{@render number(
				'temperature',
				`Water, ${formatUnit(unitFor('temperature'))}`,
				figures(valueFor('temperature', 25))
			)}{/if}
		{@render number('standard', 'Standard holds', standard)}
		{@render number('standardShown', 'and showed', standard)}
	{/if}
</div>

{#if isSolute(parameter.id)}
	<details class="mt-3 text-sm" open={draft.thinnedMl !== '' || draft.withMl !== ''}>
		<summary class="min-h-11 cursor-pointer py-2.5 text-faint">Diluted with purified water</summary>
		<div class="flex flex-wrap items-end gap-3">
			{@render number('thinnedMl', 'mL of the water', '1')}
			{@render number('withMl', 'with mL of purified', '9')}
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
