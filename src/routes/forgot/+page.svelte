<script lang="ts">
	import { enhance } from '$app/forms';
	import Button from 'flowbite-svelte/Button.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	let { form } = $props();
	const typed = $derived(form && 'typed' in form ? form.typed : undefined);
	const wrong = $derived(form && 'problems' in form ? form : undefined);
</script>

<svelte:head><title>Forgotten password · Tevrik</title></svelte:head>
<div class="mx-auto max-w-md">
	<h1 class="mt-6">Forgotten password</h1>
	{#if form && 'sent' in form}
		<p class="mt-2" role="status">
			If there is an account with this address, a link for a new password is on its way. It works once, within
			an hour. This server keeps its mail in an outbox; whoever runs it reads it under Mail, or by
			<code class="figure">./tevrik mail</code>.
		</p>
	{:else}
		<form method="POST" use:enhance>
			<Trouble says={problemAt(wrong, '')} />
			<Field
				name="email"
				label="E-mail"
				type="email"
				autocomplete="username"
				required
				value={typed?.['email']}
				problem={problemAt(wrong, '/email')}
			/>
			<Button type="submit" class="mt-4 w-full">Send a link for a new one</Button>
		</form>
	{/if}
	<p class="mt-3"><a class="link" href="/signin">Back to sign in</a></p>
</div>
