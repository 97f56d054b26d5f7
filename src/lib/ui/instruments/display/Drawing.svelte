<svelte:options namespace="svg" />

<script lang="ts">
	/** How it looks, in a few lines. */
	const _looks: { look: string } = $props();
</script>

<path d="M14 6h36v60H14zM20 13h24v16H20z" />
<path d="M24 26v-8M30 26v-8h5v4h-5M39 26h1" stroke-width="1.6" />
<circle cx="26" cy="44" r="3" />
<circle cx="38" cy="44" r="3" />
<path d="M24 56h16" />
