<script lang="ts">
	/** Levels that are not of now are said to be so, before anything else in a room. */
	import { asOfInWords } from '$lib/ui/words/as-of';

	let { asOf, timeZone }: { asOf: string | null | undefined; timeZone: string } = $props();
	const says = $derived(asOfInWords(asOf, timeZone));
</script>

{#if says}
	<p role="status" class="mb-2 rounded-lg bg-saffron-wash px-3 py-2" data-testid="as-of">◐ {says}</p>
{/if}
