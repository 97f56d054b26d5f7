<script lang="ts">
	import { onMount } from 'svelte';
	import Button from 'flowbite-svelte/Button.svelte';
	import { invalidateAll } from '$app/navigation';
	import { page } from '$app/state';
	import { outbox } from '$lib/ui/outbox.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	/** Asked again so often while the server or the network is away, ms. */
	const AGAIN = 5000;
	/** It is nobody's fault and passes: the page comes back by itself. */
	const passes = $derived(page.status === 503 || (page.status >= 500 && !page.error?.id));

	onMount(() => {
		const look = () => {
			if (passes && !document.hidden) void invalidateAll();
		};
		const timer = setInterval(look, AGAIN);
		addEventListener('online', look);
		return () => {
			clearInterval(timer);
			removeEventListener('online', look);
		};
	});
</script>

<Title of="Not here" />
{#if page.status === 404}
	<h1>Nothing stands here</h1>
	<p class="mt-2 max-w-prose">{page.error?.message}</p>
{:else if passes}
	<h1>Just a moment</h1>
	<p class="mt-2 max-w-prose" role="status">
		{page.status === 503 ? page.error?.message : 'There is no answer from the server, or no network.'} This page
		is asked for again by itself.
	</p>
	{#if outbox.waiting.length}
		<p class="mt-2 max-w-prose">
			◷ What you saved meanwhile ({outbox.waiting.length}) is kept on this device and goes out when the server
			is back.
		</p>
	{/if}
{:else}
	<h1>That did not work</h1>
	<p class="mt-2 max-w-prose">{page.error?.message}</p>
	{#if page.error?.id}<p class="mt-1 text-sm text-faint">
			Its number in the server’s log: <span class="figure">{page.error.id}</span>
		</p>{/if}
{/if}
<Button href="/" class="mt-4">To the rack</Button>
