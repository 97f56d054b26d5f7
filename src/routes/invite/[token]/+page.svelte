<script lang="ts">
	import { page } from '$app/state';
	import Button from 'flowbite-svelte/Button.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const token = $derived(page.params['token'] ?? '');
</script>

<Title of="Invitation" />
<div class="mx-auto max-w-md">
	{#if data.invitation}
		<h1 class="mt-6">{data.invitation.by} invites you</h1>
		<p class="mt-2">
			To <strong>{data.invitation.system}</strong>, as a {data.invitation.role}: you
			{data.invitation.role === 'viewer' ? 'see everything and change nothing' : 'see, test and write down'}.
		</p>
		{#if data.name}
			<form method="POST" class="mt-4">
				<Button type="submit" class="min-h-14 w-full text-lg">Join as {data.name}</Button>
			</form>
		{:else}
			<Button href="/signup?invitation={token}" class="mt-4 min-h-14 w-full text-lg"
				>Make an account and join</Button
			>
			<Button href="/signin?to=/invite/{token}" color="alternative" class="mt-3 w-full"
				>I have an account</Button
			>
		{/if}
	{:else}
		<h1 class="mt-6">This link no longer lets anybody in</h1>
		<p class="mt-2">It was used, withdrawn, or is more than a week old. Ask whoever sent it for a new one.</p>
		<Button href="/" class="mt-4">To the rack</Button>
	{/if}
</div>
