<script lang="ts">
	import Door from '$lib/ui/account/Door.svelte';
	import DoorForm from '$lib/ui/account/DoorForm.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	let { data, form } = $props();
</script>

<Door title="Make an account" heading={data.first ? 'Welcome: make the first account' : 'Make an account'}>
	{#if data.first}
		<p class="mt-2">
			Tevrik reads your kits with you and shows what the water is doing. Your tests stay on this server. The
			first account also runs it: it reads the mail that would go out and lets others in.
		</p>
	{:else if data.invitation}
		<p class="mt-2">
			{data.invitation.by} invites you to <strong>{data.invitation.system}</strong> as a {data.invitation
				.role}.
		</p>
	{:else if !data.open}
		<p class="mt-2">
			Accounts are made by invitation here. Ask a member of the tank for a link, or whoever runs this server.
		</p>
	{/if}
	{#if data.first || data.open || data.invitation}
		<DoorForm wrong={form} go="Make it" weight="large">
			<Field
				name="name"
				label="Your name, as it stands beside your readings"
				autocomplete="name"
				autofocus
				required
				value={form?.typed?.['name']}
				problem={problemAt(form, '/name')}
			/>
			<Field
				name="email"
				label="E-mail"
				type="email"
				autocomplete="username"
				required
				value={form?.typed?.['email']}
				problem={problemAt(form, '/email')}
			/>
			<Field
				name="password"
				label="Password"
				type="password"
				autocomplete="new-password"
				required
				hint="12 characters or more; a few words you can remember do well"
				problem={problemAt(form, '/password')}
			/>
		</DoorForm>
	{/if}
	{#if !data.first}<p class="mt-3"><a class="link" href="/signin">Sign in instead</a></p>{/if}
</Door>
