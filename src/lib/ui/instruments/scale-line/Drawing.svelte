<svelte:options namespace="svg" />

<script lang="ts">
	/** How it looks, in a few lines. */
	const _looks: { look: string } = $props();
</script>

<path d="M27 4h10v40a12 12 0 1 1-10 0z" />
<path d="M32 22v30" stroke="var(--liquid)" stroke-width="5" />
<path d="M44 10h6M44 18h4M44 26h6M44 34h4" />
