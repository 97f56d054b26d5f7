<script lang="ts">
	/** The leaflet's lines, or what it says one drop stands for. */
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import type { DropsMethod } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import type { KitProps } from '../editor';
	import LinesChart from '../titration/LinesChart.svelte';
	import { perDropOf } from './per-drop';

	let { draft, profile, set }: KitProps<DropsMethod> = $props();
	const wrong = $derived(!!draft.perDrop?.trim() && Number.isNaN(perDropOf(draft)));
</script>

<LinesChart {draft} {profile} {set} fillMl={1}>
	<Label class="mt-3">
		Or, where it has no table: one drop is so many {formatUnit(draft.unit)}
		<Input
			class="figure w-32!"
			inputmode="decimal"
			autocomplete="off"
			data-per-drop
			value={draft.perDrop ?? ''}
			aria-invalid={wrong ? 'true' : undefined}
			oninput={(e) => set({ perDrop: (e.currentTarget as HTMLInputElement).value })}
		/>
		{#if wrong}<span class="block text-sm text-brick" role="alert">▲ must be a number above 0</span>{/if}
	</Label>
</LinesChart>
