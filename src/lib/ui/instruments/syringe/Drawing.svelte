<svelte:options namespace="svg" />

<script lang="ts">
	/** How it looks, in a few lines. */
	const _looks: { look: string } = $props();
</script>

<path d="M25 4h14M32 4v22M24 14v40h16V14M24 54l5 6h6l5-6M32 60v8" />
<path d="M24 27h16v26H24z" fill="var(--liquid)" stroke="none" opacity="0.8" />
<path d="M24 26h16" stroke-width="4" />
<path d="M36 34h4M33 40h7M36 46h4" />
