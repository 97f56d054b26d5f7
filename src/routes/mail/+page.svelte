<script lang="ts">
	import { enhance } from '$app/forms';
	import Button from 'flowbite-svelte/Button.svelte';
	import { dateAndTime } from '$lib/ui/when';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const zone = $derived(data.systems[0]?.timeZone ?? 'UTC');
</script>

<Title of="Mail" />
<div class="mx-auto max-w-3xl">
	<h1>This server</h1>
	<section class="mt-2 flex flex-wrap items-center gap-3">
		<p class="min-w-0 flex-1 basis-60">
			{data.open
				? 'Sign-up is open: anybody who reaches this server may make an account.'
				: 'Sign-up is closed: only people with an invitation to a tank may make an account.'}
		</p>
		<form method="POST" action="?/signup" use:enhance>
			<input type="hidden" name="open" value={data.open ? 'no' : 'yes'} />
			<Button type="submit" color="alternative">{data.open ? 'Close it' : 'Open it'}</Button>
		</form>
	</section>
	<h2 class="mt-6">Mail that would have gone out</h2>
	<p class="text-sm text-faint">
		Tevrik sends no mail itself: links for new passwords wait here. Hand them on by a way you trust.
	</p>
	{#each data.mails as m (m.id)}
		<article class="mt-3 border-t pt-2">
			<p class="text-sm text-faint">{dateAndTime(m.at.toISOString(), zone)} · to {m.recipient}</p>
			<h3 class="font-medium">{m.subject}</h3>
			<p class="whitespace-pre-wrap break-words">{m.body}</p>
		</article>
	{:else}
		<p class="mt-3">Nothing yet.</p>
	{/each}
</div>
