<script lang="ts">
	/** What an instrument says: the number large, its error lighter, where it lands, and what else is to be said. */
	import type { Snippet } from 'svelte';
	import { formatUnit } from '$core/quantities';
	import type { Placing } from '$core/targets';
	import StateChip from '$lib/ui/shell/StateChip.svelte';

	interface Props {
		title: string;
		unit: string;
		words: { value: string; error: string } | undefined;
		place: Placing | undefined;
		children: Snippet;
	}
	let { title, unit, words, place, children }: Props = $props();
</script>

<p class="text-sm text-faint">{title}</p>
<p
	class="figure flex flex-wrap items-baseline gap-x-3 text-5xl font-semibold md:text-7xl"
	data-testid="value"
>
	{#if words}
		{words.value}
		<span class="text-xl font-normal text-faint md:text-3xl">{words.error} {formatUnit(unit)}</span>
	{:else}
		<span class="text-faint">–</span>
	{/if}
</p>
<p class="mt-1 min-h-6">
	{#if place}<StateChip {place} />{/if}
	{@render children()}
</p>
