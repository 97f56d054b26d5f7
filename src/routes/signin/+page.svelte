<script lang="ts">
	import { enhance } from '$app/forms';
	import { page } from '$app/state';
	import Button from 'flowbite-svelte/Button.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	let { data, form } = $props();
	const to = $derived(page.url.searchParams.get('to'));
	const after = $derived(to ? `&to=${encodeURIComponent(to)}` : '');
	const invited = $derived(to?.startsWith('/invite/') ? to.slice('/invite/'.length) : undefined);
</script>

<svelte:head><title>Sign in · Tevrik</title></svelte:head>
<div class="mx-auto max-w-md">
	<h1 class="mt-6">Sign in</h1>
	{#if data.demo}
		<form method="POST" action="?/demo{after}" use:enhance class="mt-4">
			<Button type="submit" class="min-h-14 w-full text-lg">Open the demo</Button>
			<p class="mt-1 text-sm text-faint">
				Odile’s boathouse: two tanks, months of tests, all made up. Try everything; it is yours to spoil.
			</p>
		</form>
		<p class="mt-4 border-t pt-3 text-sm text-faint">Or with an account of your own:</p>
	{/if}
	<form
		method="POST"
		action="?/in{after}"
		use:enhance={() =>
			({ update }) =>
				update({ reset: false })}
	>
		<Trouble says={problemAt(form, '')} />
		<Field
			name="email"
			label="E-mail"
			type="email"
			autocomplete="username"
			required
			value={form?.typed?.['email']}
		/>
		<Field name="password" label="Password" type="password" autocomplete="current-password" required />
		<Button type="submit" color={data.demo ? 'alternative' : 'primary'} class="mt-4 min-h-11 w-full"
			>Sign in</Button
		>
	</form>
	<p class="mt-3 flex flex-wrap gap-x-6">
		<a class="link" href="/forgot">Forgotten password</a>
		{#if invited}<a class="link" href="/signup?invitation={invited}">Make an account</a>
		{:else if data.open}<a class="link" href="/signup">Make an account</a>{/if}
	</p>
</div>
