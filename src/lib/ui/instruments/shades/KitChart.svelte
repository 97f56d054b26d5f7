<script lang="ts">
	/** The values of the patches on the card in the keeper's hand. */
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import type { ShadesMethod } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import { plural } from '$lib/ui/words/plural';
	import type { KitProps } from '../editor';

	let { draft, profile, ownChart, said, set }: KitProps<ShadesMethod> = $props();
</script>

<h2 class="mb-1">From the card in your hand</h2>
<Label>
	Values of its patches in {formatUnit(draft.unit)}, palest first
	<Input
		class="figure w-full"
		inputmode="text"
		autocomplete="off"
		placeholder="0 1 2.5 5 10"
		data-patches
		value={draft.patches}
		oninput={(e) => set({ patches: (e.currentTarget as HTMLInputElement).value })}
	/>
	{@render said('/shades')}
</Label>
<Label class="mt-2">
	Values of a second column beside the same patches, if it has one: a high range
	<Input
		class="figure w-full"
		inputmode="text"
		autocomplete="off"
		data-second
		value={draft.second ?? ''}
		oninput={(e) => set({ second: (e.currentTarget as HTMLInputElement).value })}
	/>
	{@render said('/columns')}
</Label>
{#if ownChart}
	<p class="mt-2 text-sm" data-testid="fit">{plural(profile.shades.length, 'patch', 'patches')}.</p>
{/if}
