<script lang="ts">
	import Door from '$lib/ui/account/Door.svelte';
	import DoorForm from '$lib/ui/account/DoorForm.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	let { form } = $props();
	const typed = $derived(form && 'typed' in form ? form.typed : undefined);
	const wrong = $derived(form && 'problems' in form ? form : undefined);
</script>

<Door title="Forgotten password">
	{#if form && 'sent' in form}
		<p class="mt-2" role="status">
			If there is an account with this address, a link for a new password is on its way. It works once, within
			an hour. This server keeps its mail in an outbox; whoever runs it reads it under Mail, or by
			<code class="figure">./tevrik mail</code>.
		</p>
	{:else}
		<DoorForm {wrong} go="Send a link for a new one">
			<Field
				name="email"
				label="E-mail"
				type="email"
				autocomplete="username"
				required
				value={typed?.['email']}
				problem={problemAt(wrong, '/email')}
			/>
		</DoorForm>
	{/if}
	<p class="mt-3"><a class="link" href="/signin">Back to sign in</a></p>
</Door>
