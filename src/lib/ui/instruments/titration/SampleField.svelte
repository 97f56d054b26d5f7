<script lang="ts">
	/** How much water a kit takes. */
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import type { KitProps } from '../editor';

	let { draft, said, set }: Pick<KitProps, 'draft' | 'said' | 'set'> = $props();
</script>

<Label>
	Sample, mL
	<Input
		class="figure"
		inputmode="decimal"
		value={draft.sampleMl}
		oninput={(e) => set({ sampleMl: (e.currentTarget as HTMLInputElement).value })}
	/>
	{@render said('/samples')}
</Label>
