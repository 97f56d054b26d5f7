<script lang="ts">
	/** What else belongs to a reading: the sample's size, full syringes, how a scale was checked, thinning. */
	import type { Method } from '$core/methods';
	import type { Parameter } from '$core/quantities';
	import type { Draft } from './draft-reading';

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
	<label class="text-sm text-faint">
		{label}
		<input
			class="figure block min-h-11 w-28 rounded-lg border bg-sheet px-3 text-base text-ink"
			inputmode="decimal"
			placeholder={example}
			value={draft[key]}
			oninput={(e) => onchange({ [key]: e.currentTarget.value })}
		/>
	</label>
{/snippet}

<div class="mt-3 flex flex-wrap gap-3">
	{#if (method.samples?.length ?? 0) > 1}
		<label class="text-sm text-faint">
			Sample
			<select
				class="block min-h-11 rounded-lg border bg-sheet py-1 ps-3 pe-9 text-base text-ink"
				value={draft.sampleSize}
				onchange={(e) => onchange({ sampleSize: e.currentTarget.value })}
			>
				{#each method.samples ?? [] as s (s.id)}<option value={s.id}>{s.id}, {s.ml} mL</option>{/each}
			</select>
		</label>
	{/if}
	{#if method.reads === 'syringe'}
		<label class="text-sm text-faint">
			Full syringes before
			<input
				type="number"
				min="0"
				max="50"
				class="figure block min-h-11 w-28 rounded-lg border bg-sheet px-3 text-base text-ink"
				value={draft.refills}
				onchange={(e) =>
					onchange({ refills: Math.max(0, Math.min(50, Math.floor(e.currentTarget.valueAsNumber || 0))) })}
			/>
		</label>
		<label class="flex min-h-11 items-center gap-2 self-end text-sm">
			<input
				type="checkbox"
				class="size-5 rounded border-glass bg-sheet text-primary-700"
				checked={flipped}
				onchange={(e) => onflip(e.currentTarget.checked)}
			/>
			digits upside down
		</label>
	{/if}
	{#if method.reads === 'scale-line' && parameter.id === 'salinity'}
		{#if method.display.hydrometerC !== undefined}{@render number('temperature', 'Water, °C', '25')}{/if}
		{@render number('standard', 'Standard holds', standard)}
		{@render number('standardShown', 'and showed', standard)}
	{/if}
</div>

{#if parameter.id !== 'temperature' && parameter.id !== 'ph'}
	<details class="mt-3 text-sm" open={draft.thinnedMl !== '' || draft.withMl !== ''}>
		<summary class="min-h-8 cursor-pointer text-faint">Thinned with purified water</summary>
		<div class="flex flex-wrap items-end gap-3">
			{@render number('thinnedMl', 'mL of the water', '1')}
			{@render number('withMl', 'with mL of purified', '9')}
		</div>
	</details>
{/if}
