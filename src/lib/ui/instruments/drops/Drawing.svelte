<svelte:options namespace="svg" />

<script lang="ts">
	/** How it looks, in a few lines. */
	const _looks: { look: string } = $props();
</script>

<path d="M26 4h12v8l4 6v14H22V18l4-6zM30 32v6h4v-6" />
<path d="M32 44c4 5 5 8 5 10a5 5 0 0 1-10 0c0-2 1-5 5-10z" fill="var(--liquid)" />
