<script lang="ts">
	import Button from 'flowbite-svelte/Button.svelte';
	import { page } from '$app/state';
</script>

<svelte:head><title>Not here · Tevrik</title></svelte:head>
<h1>{page.status === 404 ? 'Nothing stands here' : 'That did not work'}</h1>
<p class="mt-2 max-w-prose">{page.error?.message}</p>
{#if page.error?.id}<p class="mt-1 text-sm text-faint">
		Its number in the server’s log: <span class="figure">{page.error.id}</span>
	</p>{/if}
<Button href="/" class="mt-4 min-h-11">To the rack</Button>
