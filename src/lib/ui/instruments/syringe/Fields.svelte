<script lang="ts">
	/** Full syringes before this one, and how it is held. */
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import type { SyringeMethod } from '$core/instruments';
	import type { PartProps } from '../view';

	let { draft, flipped, onchange, onflip }: PartProps<SyringeMethod> = $props();
</script>

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
<Checkbox classes={{ div: 'self-end' }} checked={flipped} onchange={(e) => onflip(e.currentTarget.checked)}
	>digits upside down</Checkbox
>
