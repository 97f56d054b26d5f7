<script lang="ts">
	/** A code of an authenticator after the password: begun, proved, ended, with recovery codes. */
	import { enhance } from '$app/forms';
	import Button from 'flowbite-svelte/Button.svelte';
	import type { Problem } from '$core/base';
	import Field from '$lib/ui/forms/Field.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	interface Props {
		wrong: { problems?: Problem[] | undefined } | undefined;
		on: boolean;
		authenticator: { picture: string; secret: string; recovery: string[] } | undefined;
		recovery: string[] | undefined;
	}
	let { wrong, on, authenticator, recovery }: Props = $props();
	/** A wrong first code does not take the picture away: it is shown this once. */
	let kept: Props['authenticator'] = $state();
	$effect(() => {
		if (authenticator) kept = authenticator;
	});
	const shown = $derived(on ? undefined : (authenticator ?? kept));
	const groups = (secret: string) => secret.match(/.{1,4}/g)?.join(' ') ?? secret;
</script>

{#snippet codes(list: string[])}
	<p class="mt-3 text-sm">
		Recovery codes, each for one sign-in on a day without the authenticator. They are shown once: write them
		down.
	</p>
	<ul class="figure mt-1 grid grid-cols-2 gap-x-6 rounded-lg bg-saffron-wash p-3" data-testid="recovery">
		{#each list as code (code)}<li>{code}</li>{/each}
	</ul>
{/snippet}
{#snippet password(action: string, words: string)}
	<form method="POST" {action} use:enhance class="flex flex-wrap items-start gap-3">
		<Field
			name="present"
			label="Password now"
			type="password"
			autocomplete="current-password"
			required
			problem={problemAt(wrong, '/present')}
		/>
		<Button type="submit" color="alternative" class="mt-8">{words}</Button>
	</form>
{/snippet}

<section>
	<h2>Second step</h2>
	{#if on}
		<p class="text-sm text-moss">● A code of your authenticator is asked after your password.</p>
		{#if recovery}{@render codes(recovery)}{/if}
		{@render password('?/endSecondStep', 'Switch it off')}
		{@render password('?/recovery', 'New recovery codes')}
	{:else if shown}
		<div class="mt-2 flex flex-wrap gap-4">
			<img
				class="size-44 rounded-lg bg-white"
				src="data:image/svg+xml,{encodeURIComponent(shown.picture)}"
				alt="The authenticator’s secret as a code to scan"
			/>
			<div class="min-w-0 flex-1 basis-60">
				<p>Scan this with an authenticator, or type the secret into it:</p>
				<p class="figure break-all select-all" data-testid="secret">{groups(shown.secret)}</p>
				<form method="POST" action="?/confirm" use:enhance class="flex flex-wrap items-start gap-3">
					<Field
						name="code"
						label="The code it shows now"
						autocomplete="one-time-code"
						inputmode="numeric"
						required
						problem={problemAt(wrong, '/code')}
					/>
					<Button type="submit" class="mt-8">Switch it on</Button>
				</form>
			</div>
		</div>
		{@render codes(shown.recovery)}
	{:else}
		<p class="text-sm text-faint">
			With a second step nobody gets in by your password alone: a code from an authenticator on your phone is
			asked as well.
		</p>
		{@render password('?/secondStep', 'Set it up')}
	{/if}
</section>
