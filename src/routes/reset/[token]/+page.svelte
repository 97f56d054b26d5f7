<script lang="ts">
	import Button from 'flowbite-svelte/Button.svelte';
	import Door from '$lib/ui/account/Door.svelte';
	import DoorForm from '$lib/ui/account/DoorForm.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	let { form } = $props();
	const wrong = $derived(form && 'problems' in form ? form : undefined);
</script>

<Door title="New password" heading="A new password">
	{#if form && 'done' in form}
		<p class="mt-2" role="status">It is set, and every device is signed out.</p>
		<Button href="/signin" class="mt-4">Sign in</Button>
	{:else}
		<DoorForm {wrong} go="Set it">
			<Field
				name="password"
				label="New password"
				type="password"
				autocomplete="new-password"
				required
				hint="12 characters or more"
				problem={problemAt(wrong, '/password')}
			/>
		</DoorForm>
	{/if}
</Door>
