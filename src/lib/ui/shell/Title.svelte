<script lang="ts">
	/** What the browser calls a page: its tank first where it has one, then the room and what is looked at in it. */
	import { page } from '$app/state';

	let { of }: { of: string | readonly string[] } = $props();
	const words = $derived([page.data['system']?.name, of, 'Tevrik'].flat().filter(Boolean).join(' · '));
</script>

<svelte:head><title>{words}</title></svelte:head>
