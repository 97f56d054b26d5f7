<script lang="ts">
	import { enhance } from '$app/forms';
	import Button from 'flowbite-svelte/Button.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	let { form } = $props();
	const wrong = $derived(form && 'problems' in form ? form : undefined);
</script>

<svelte:head><title>New password · Tevrik</title></svelte:head>
<div class="mx-auto max-w-md">
	<h1 class="mt-6">A new password</h1>
	{#if form && 'done' in form}
		<p class="mt-2" role="status">It is set, and every device is signed out.</p>
		<Button href="/signin" class="mt-4">Sign in</Button>
	{:else}
		<form method="POST" use:enhance>
			<Trouble says={problemAt(wrong, '')} />
			<Field
				name="password"
				label="New password"
				type="password"
				autocomplete="new-password"
				required
				hint="12 characters or more"
				problem={problemAt(wrong, '/password')}
			/>
			<Button type="submit" class="mt-4 w-full">Set it</Button>
		</form>
	{/if}
</div>
