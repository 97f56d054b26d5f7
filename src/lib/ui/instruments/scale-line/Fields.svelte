<script lang="ts">
	/** How a scale for salinity was checked, and how warm the water is that a glass hydrometer floats in. */
	import type { ScaleLineMethod } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import { figures, unitFor } from '$lib/ui/habits';
	import { valueFor } from '$lib/ui/mine';
	import NumberField from '../NumberField.svelte';
	import type { PartProps } from '../view';

	let { method, parameter, draft, onchange }: PartProps<ScaleLineMethod> = $props();
	/** A standard of 35 PSU, in the unit the scale is read in. */
	const standard = $derived(method.display.unit === 'PSU' ? '35' : '1.0264');
</script>

{#if parameter.id === 'salinity'}
	{#if method.display.hydrometerC !== undefined}
		<NumberField
			label="Water, {formatUnit(unitFor('temperature'))}"
			example={figures(valueFor('temperature', 25))}
			text={draft.temperature}
			ontext={(temperature) => onchange({ temperature })}
		/>
	{/if}
	<NumberField
		label="Standard holds"
		example={standard}
		text={draft.standard}
		ontext={(text) => onchange({ standard: text })}
	/>
	<NumberField
		label="and showed"
		example={standard}
		text={draft.standardShown}
		ontext={(standardShown) => onchange({ standardShown })}
	/>
{/if}
