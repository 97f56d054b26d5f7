<script lang="ts">
	/** What is wrong with a form as a whole. */
	let { says }: { says: string | undefined } = $props();
</script>

{#if says}<p class="mt-3 rounded-lg bg-brick-wash px-3 py-2" role="alert">▲ {says}</p>{/if}
