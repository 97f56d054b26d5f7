<script lang="ts">
	/** What is wrong with a form as a whole. */
	import Alert from 'flowbite-svelte/Alert.svelte';

	let { says }: { says: string | null | undefined } = $props();
</script>

{#if says}<Alert color="red" class="mt-3">▲ {says}</Alert>{/if}
