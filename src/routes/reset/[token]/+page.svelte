<script lang="ts">
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Button from 'flowbite-svelte/Button.svelte';
	import Door from '$lib/ui/account/Door.svelte';
	import DoorForm from '$lib/ui/account/DoorForm.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	let { data, form } = $props();
	const others = $derived(
		data.others && { ...data.others, n: data.others.passkeys.length + data.others.tokens.length }
	);
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
			{#if others?.n}
				<div class="mt-3 text-sm">
					<p>
						Your account also opens without this password. If you do not know one of these, remove them all.
					</p>
					<ul class="mt-1 list-inside list-disc">
						{#each others.passkeys as name, i (i)}<li>Passkey: {name}</li>{/each}
						{#each others.tokens as name, i (i)}<li>Token: {name}</li>{/each}
					</ul>
					<Checkbox name="endOthers" classes={{ div: 'mt-2 min-h-11' }}
						>Remove all passkeys and tokens</Checkbox
					>
				</div>
			{/if}
		</DoorForm>
	{/if}
</Door>
