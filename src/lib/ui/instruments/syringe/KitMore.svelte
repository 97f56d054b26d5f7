<script lang="ts">
	/** The sample, the syringe, and what the leaflet's readings are. */
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { SyringeMethod } from '$core/instruments';
	import type { KitProps } from '../editor';
	import SampleField from '../titration/SampleField.svelte';

	let { draft, said, set }: KitProps<SyringeMethod> = $props();
</script>

<SampleField {draft} {said} {set} />
<Label>
	Syringe holds, mL
	<Input
		class="figure"
		inputmode="decimal"
		value={draft.fillMl}
		oninput={(e) => set({ fillMl: (e.currentTarget as HTMLInputElement).value })}
	/>
	{@render said('/syringe')}
</Label>
<Label class="wide">
	The chart’s readings are
	<Select
		class="w-full"
		placeholder=""
		value={draft.readAs}
		onchange={(e) => set({ readAs: e.currentTarget.value as '' })}
	>
		<option value="">as its lines say</option>
		<option value="left">what is left in the syringe</option>
		<option value="used">what was used</option>
	</Select>
</Label>
