<script lang="ts">
	import { enhance } from '$app/forms';
	import Button from 'flowbite-svelte/Button.svelte';
	import Alert from 'flowbite-svelte/Alert.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import Farewell from '$lib/ui/account/Farewell.svelte';
	import { invalidateAll } from '$app/navigation';
	import HabitsForm from '$lib/ui/account/HabitsForm.svelte';
	import Passkeys from '$lib/ui/account/Passkeys.svelte';
	import SecondStep from '$lib/ui/account/SecondStep.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';
	import { forgetDevice } from '$lib/ui/forget';
	import { outbox } from '$lib/ui/outbox.svelte';
	import { dateAndTime } from '$lib/ui/when';
	import { plural } from '$lib/ui/words/plural';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data, form } = $props();
	const wrong = $derived(form && 'problems' in form ? form : undefined);
	const said = $derived(form && 'said' in form ? form.said : undefined);
	const token = $derived(form && 'token' in form ? form.token : undefined);
	const authenticator = $derived(form && 'authenticator' in form ? form.authenticator : undefined);
	const recovery = $derived(form && 'recovery' in form ? form.recovery : undefined);
	const zone = $derived(data.systems[0]?.timeZone ?? 'UTC');
	let some = $state(false);
	let habitsSaved = $state(false);

	/** "Chromium on Linux", as far as a device says what it is. */
	function deviceInWords(agent: string | null): string {
		if (!agent) return 'an unnamed device';
		const browser = /(Firefox|Edg|OPR|HeadlessChrome|Chrome|Safari)\//.exec(agent)?.[1] ?? 'a browser';
		const names: Record<string, string> = { Edg: 'Edge', OPR: 'Opera', HeadlessChrome: 'Chromium' };
		const system = /(Android|iPhone|iPad|Windows|Mac OS X|Linux)/.exec(agent)?.[1];
		return `${names[browser] ?? browser}${system ? ` on ${system}` : ''}`;
	}
</script>

<Title of="Your account" />
<div class="mx-auto max-w-5xl">
	<div class="flex flex-wrap items-center gap-4">
		<h1>{data.profile.name}</h1>
		<span class="min-w-0 break-all text-faint">{data.profile.email}</span>
		<span class="flex-1"></span>
		{#if data.profile.operator}<a class="link" href="/mail">Mail and sign-up of this server</a>{/if}
		<form
			method="POST"
			action="?/out"
			use:enhance={() =>
				async ({ update }) => {
					await forgetDevice();
					await update();
				}}
		>
			<Button type="submit" color="alternative">Sign out</Button>
		</form>
	</div>
	{#if outbox.waiting.length}
		<p class="mt-2 text-sm text-saffron">
			◐ {plural(outbox.waiting.length, 'entry', 'entries')} still {outbox.waiting.length === 1
				? 'waits'
				: 'wait'} on this device for the network. They stay here and go out when you sign in again.
		</p>
	{/if}
	<p aria-live="polite" class="min-h-6 text-moss">{said ? `● ${said}` : ''}</p>
	<Trouble says={problemAt(wrong, '')} />

	<div class="grid gap-x-10 gap-y-6 lg:grid-cols-2">
		<section class="lg:col-span-2">
			<h2 class="mb-1">Units, dates and reminders</h2>
			{#key data.habits}
				<HabitsForm
					start={data.habits}
					now={data.now}
					timeZone={zone}
					go="Save units and dates"
					ondone={async () => {
						await invalidateAll();
						habitsSaved = true;
					}}
				/>
			{/key}
			<p aria-live="polite" class="min-h-6 text-moss">
				{habitsSaved ? '● Saved: used everywhere from now on.' : ''}
			</p>
		</section>
		<section>
			<h2>Name and password</h2>
			<form
				method="POST"
				action="?/name"
				use:enhance={() =>
					({ update }) =>
						update({ reset: false })}
				class="flex items-start gap-2"
			>
				<Field
					name="name"
					label="Name beside your readings"
					value={data.profile.name}
					autocomplete="name"
					problem={problemAt(wrong, '/name')}
					class="flex-1"
				/>
				<Button type="submit" color="alternative" class="mt-8">Change</Button>
			</form>
			<form method="POST" action="?/password" use:enhance>
				<div class="grid gap-x-3 sm:grid-cols-2">
					<Field
						name="current"
						label="Password now"
						type="password"
						autocomplete="current-password"
						required
						problem={problemAt(wrong, '/current')}
					/>
					<Field
						name="password"
						label="New password"
						type="password"
						autocomplete="new-password"
						required
						hint="12 characters or more"
						problem={problemAt(wrong, '/password')}
					/>
				</div>
				<Button type="submit" color="alternative" class="mt-2">Set the new password</Button>
			</form>
		</section>
		<section>
			<h2>Signed in</h2>
			<ul class="mt-1 divide-y">
				{#each data.sessions as s (s.id)}
					<li class="flex flex-wrap items-center gap-x-3 py-1">
						<span>{deviceInWords(s.device)}</span>
						<span class="text-sm text-faint">last seen {dateAndTime(s.updatedAt.toISOString(), zone)}</span>
						<span class="flex-1"></span>
						{#if s.id === data.here}<span class="flex min-h-11 items-center text-sm text-moss"
								>● this one</span
							>
						{:else}
							<form method="POST" action="?/end" use:enhance>
								<input type="hidden" name="id" value={s.id} />
								<button class="min-h-11 px-2 text-brick" aria-label="Sign out {deviceInWords(s.device)}"
									>Sign out</button
								>
							</form>
						{/if}
					</li>
				{/each}
			</ul>
		</section>
		<SecondStep {wrong} on={data.secondStep} {authenticator} {recovery} />
		<Passkeys passkeys={data.passkeys} work={data.passkeysWork} asksPassword={data.asksPassword} {zone} />
		<section class="lg:col-span-2">
			<h2>Tokens for programs</h2>
			<p class="text-sm text-faint">
				A token lets a program of yours read or write through the <a class="underline" href="/api/v1">API</a>,
				to the tanks you name. Whoever has it is you, there.
			</p>
			{#if token}
				<Alert color="amber" class="mt-2" role="status">
					This is shown once. Copy it now: <code class="figure block break-all select-all" data-testid="token"
						>{token}</code
					>
				</Alert>
			{/if}
			<ul class="mt-1 divide-y">
				{#each data.tokens as t (t.id)}
					<li class="flex flex-wrap items-center gap-x-3 py-1">
						<span class="font-medium">{t.name}</span>
						<span class="text-sm text-faint">
							{t.writes ? 'reads and writes' : 'only reads'} ·
							{t.systems
								? t.systems
										.map((id) => data.systems.find((s) => s.id === id)?.name ?? 'a tank you left')
										.join(', ')
								: 'all your tanks'} ·
							{t.usedAt ? `used ${dateAndTime(t.usedAt.toISOString(), zone)}` : 'never used'}
							{t.expiresAt ? `· ends ${dateAndTime(t.expiresAt.toISOString(), zone)}` : ''}
							{t.endsWithPassword ? '· ends with your password' : ''}
						</span>
						<span class="flex-1"></span>
						<form method="POST" action="?/revoke" use:enhance>
							<input type="hidden" name="id" value={t.id} />
							<button class="min-h-11 px-2 text-brick" aria-label="Revoke {t.name}">Revoke</button>
						</form>
					</li>
				{/each}
			</ul>
			<form method="POST" action="?/token" use:enhance class="mt-1 flex flex-wrap items-start gap-x-4">
				<Field
					name="name"
					label="What it is for"
					placeholder="export script"
					value={wrong?.typed?.['tokenName'] ?? ''}
				/>
				<Label class="mt-3">
					Tanks
					<Select placeholder="" name="which" onchange={(e) => (some = e.currentTarget.value === 'some')}>
						<option value="all">all of mine</option>
						<option value="some">only these</option>
					</Select>
				</Label>
				{#if some}
					<span class="mt-8 flex flex-wrap gap-x-4">
						{#each data.systems as s (s.id)}
							<Checkbox name="system" value={s.id}>{s.name}</Checkbox>
						{/each}
					</span>
				{/if}
				<Checkbox classes={{ div: 'mt-8' }} name="writes">may write</Checkbox>
				<Label class="mt-3">
					Ends
					<Select placeholder="" name="days" value="365">
						<option value="30">after 30 days</option>
						<option value="365">after a year</option>
						<option value="0">when I revoke it</option>
					</Select>
				</Label>
				<Checkbox classes={{ div: 'mt-8' }} name="endsWithPassword">ends with a new password</Checkbox>
				{#if data.asksPassword}
					<Field
						name="tokenPassword"
						label="Your password"
						type="password"
						autocomplete="current-password"
						required
						problem={problemAt(wrong, '/tokenPassword')}
					/>
				{/if}
				<Button type="submit" class="mt-8">Make a token</Button>
			</form>
			<p class="text-sm text-brick">
				{problemAt(wrong, '/systems') ? `▲ ${problemAt(wrong, '/systems')}` : ''}
			</p>
		</section>
		<Farewell {wrong} />
	</div>
	<p class="mt-6 text-sm"><a class="link" href="/notices">Made with the work of others</a></p>
</div>
