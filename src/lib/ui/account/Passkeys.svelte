<script lang="ts">
	/** Devices that sign in with a key of their own. */
	import { enhance } from '$app/forms';
	import { invalidateAll } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import { addPasskey } from '$lib/client/passkeys';
	import { dateAndTime } from '$lib/ui/when';

	interface Props {
		passkeys: { id: string; name: string | null; createdAt: Date | null }[];
		/** Whether this server has an address that passkeys can belong to. */
		work: boolean;
		/** Whether the present password is asked before one is added. */
		asksPassword: boolean;
		zone: string;
	}
	let { passkeys, work, asksPassword, zone }: Props = $props();
	let said = $state('');

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const form = event.currentTarget as HTMLFormElement;
		const typed = new FormData(form);
		const text = (field: string) => String(typed.get(field) ?? '');
		said = (await addPasskey(text('passkeyName'), text('passkeyPassword'))) ?? '';
		if (!said) form.reset();
		await invalidateAll();
	}
</script>

<section>
	<h2>Passkeys</h2>
	<p class="text-sm text-faint">
		A passkey is a key that stays on your device and opens with its fingerprint or PIN: no password to type or
		to steal.
	</p>
	<ul class="mt-1 divide-y">
		{#each passkeys as p (p.id)}
			<li class="flex flex-wrap items-center gap-x-3 py-1">
				<span class="font-medium">{p.name ?? 'A device'}</span>
				{#if p.createdAt}<span class="text-sm text-faint"
						>since {dateAndTime(p.createdAt.toISOString(), zone)}</span
					>{/if}
				<span class="flex-1"></span>
				<form method="POST" action="?/passkey" use:enhance>
					<input type="hidden" name="id" value={p.id} />
					<button class="min-h-11 px-2 text-brick" aria-label="Remove {p.name ?? 'a device'}">Remove</button>
				</form>
			</li>
		{/each}
	</ul>
	{#if work}
		<form onsubmit={add} class="flex flex-wrap items-start gap-3">
			<Field
				name="passkeyName"
				label="Name of this device"
				placeholder="phone"
				maxlength={60}
				class="min-w-40 flex-1"
			/>
			{#if asksPassword}
				<Field
					name="passkeyPassword"
					label="Your password"
					type="password"
					autocomplete="current-password"
					required
					class="min-w-40 flex-1"
				/>
			{/if}
			<Button type="submit" color="alternative" class="mt-8">Add a passkey</Button>
		</form>
		<p class="text-sm text-brick" role="status">{said ? `▲ ${said}` : ''}</p>
	{:else}
		<p class="mt-2 text-sm">
			◐ Browsers keep passkeys for names only, and this server is reached by a number. Set ORIGIN to its name,
			such as https://tank.example.
		</p>
	{/if}
</section>
