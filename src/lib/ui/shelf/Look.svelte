<script lang="ts">
	/** How an instrument looks, in a few lines. */
	import { editorOf } from '$lib/ui/instruments/editors';
	import { kindOf } from './kit-draft';

	let { look }: { look: string } = $props();
	const { Drawing } = $derived(editorOf({ reads: kindOf(look) }));
</script>

<svg
	viewBox="0 0 64 72"
	class="h-16 w-14"
	fill="none"
	stroke="currentColor"
	stroke-width="2"
	stroke-linecap="round"
	stroke-linejoin="round"
	aria-hidden="true"
>
	<Drawing {look} />
</svg>
