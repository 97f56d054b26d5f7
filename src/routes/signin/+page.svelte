<script lang="ts">
	import { enhance } from '$app/forms';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import Button from 'flowbite-svelte/Button.svelte';
	import Door from '$lib/ui/account/Door.svelte';
	import DoorForm from '$lib/ui/account/DoorForm.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';
	import { signInByPasskey } from '$lib/client/passkeys';

	let { data, form } = $props();
	const to = $derived(page.url.searchParams.get('to'));
	const after = $derived(to ? `&to=${encodeURIComponent(to)}` : '');
	const typed = $derived(
		(form && 'typed' in form ? form.typed : undefined) as Record<string, string> | undefined
	);
	const wrong = $derived(form && 'problems' in form ? form : undefined);
	/** The password was right; what an authenticator shows is asked now. */
	const asksCode = $derived(form !== null && form !== undefined && 'code' in form);
	let refused = $state('');
	async function byPasskey() {
		refused = (await signInByPasskey()) ?? '';
		if (!refused) await goto(placeOf(to), { invalidateAll: true });
	}
	/** Only a place of ours; the server's own rule decides for forms. */
	const placeOf = (wanted: string | null) => {
		const there = new URL(wanted ?? '/', location.origin);
		return there.origin === location.origin && !there.pathname.startsWith('//')
			? there.pathname + there.search
			: '/';
	};
	const invited = $derived(to?.startsWith('/invite/') ? to.slice('/invite/'.length) : undefined);
</script>

<Door title="Sign in">
	{#if asksCode}
		<p class="mt-3">
			Your password is right. Now the six digits that your authenticator shows, or one of your recovery codes.
		</p>
		<DoorForm action="?/code{after}" {wrong} go="Go in">
			<Field
				name="code"
				label="Code"
				autocomplete="one-time-code"
				inputmode="text"
				required
				autofocus
				problem={problemAt(wrong, '/code')}
			/>
		</DoorForm>
		<p class="mt-3">
			<a class="link" href="/signin{to ? `?to=${encodeURIComponent(to)}` : ''}" data-sveltekit-reload
				>Begin again</a
			>
		</p>
	{:else}
		{#if data.demo}
			<form method="POST" action="?/demo{after}" use:enhance class="mt-4">
				<Button type="submit" class="min-h-14 w-full text-lg">Open the demo</Button>
				<p class="mt-1 text-sm text-faint">
					Odile’s boathouse: two tanks, months of tests, all made up. Try everything; it is yours to spoil.
				</p>
			</form>
			<p class="mt-4 border-t pt-3 text-sm text-faint">Or with an account of your own:</p>
		{/if}
		<DoorForm action="?/in{after}" {wrong} go="Sign in" weight={data.demo ? 'quiet' : 'usual'}>
			<Field
				name="email"
				label="E-mail"
				type="email"
				autocomplete="username"
				required
				value={typed?.['email']}
			/>
			<Field name="password" label="Password" type="password" autocomplete="current-password" required />
		</DoorForm>
		{#if data.passkeys}
			<Button color="alternative" class="mt-3 w-full" onclick={byPasskey}>Sign in with a passkey</Button>
			<p class="min-h-6 text-sm text-brick" role="status">{refused ? `▲ ${refused}` : ''}</p>
		{/if}
		<p class="mt-3 flex flex-wrap gap-x-6">
			<a class="link" href="/forgot">Forgotten password</a>
			{#if invited}<a class="link" href="/signup?invitation={invited}">Make an account</a>
			{:else if data.open}<a class="link" href="/signup">Make an account</a>{/if}
		</p>
	{/if}
</Door>
