<script lang="ts">
	import { enhance } from '$app/forms';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import { parameterOf } from '$core/catalogue';
	import AsOf from '$lib/ui/shell/AsOf.svelte';
	import { dayInWords } from '$lib/ui/when';
	import { dueInWords } from '$lib/ui/wording';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	let copied = $state(false);
	async function copy() {
		await navigator.clipboard?.writeText(data.address ?? '').catch(() => undefined);
		copied = true;
	}
</script>

<Title of="Reminders" />

<div class="max-w-3xl">
	<h1>Reminders in your calendar</h1>
	<AsOf asOf={data.asOf} timeZone={data.system.timeZone} />
	<p class="mt-2">
		Any calendar that takes an address shows when tests are due, for all your tanks, at {data.remindAt}
		on each tank’s own clock (<a class="link" href="/account">another hour</a>). Tests due within two days of
		each other share an evening.
	</p>
	{#if data.address}
		<Label class="mt-3">
			Address, yours alone: whoever has it reads your reminders
			<Input
				class="figure mt-1"
				readonly
				value={data.address}
				data-testid="address"
				onfocus={(e: Event) => (e.currentTarget as HTMLInputElement).select()}
			/>
		</Label>
	{:else}
		<p class="mt-3">
			The address you have goes on working, but nobody can show it again: only a hash of it is kept. Make a
			new one to see one here.
		</p>
	{/if}
	<div class="mt-3 flex flex-wrap gap-3">
		{#if data.address}
			<Button onclick={copy}>{copied ? 'Copied' : 'Copy'}</Button>
			<Button color="alternative" href={data.address} download="tevrik.ics">As a file</Button>
		{/if}
		<form method="POST" action="?/anew" use:enhance>
			<Button type="submit" color="alternative">A new address, the old one ends</Button>
		</form>
	</div>
	<h2 class="mt-6">{data.system.name}</h2>
	<ul class="mt-1 divide-y border-y">
		{#each data.due as d (d.parameter)}
			<li class="flex flex-wrap gap-x-4 py-2">
				<span class="w-28 font-medium">{parameterOf(d.parameter)?.title ?? d.parameter}</span>
				<span class="w-32">{dayInWords(d.at, data.now, data.system.timeZone)}</span>
				<span class="text-faint">{dueInWords(d.why, data.now, data.system.timeZone)}</span>
			</li>
		{:else}
			<li class="py-3 text-faint">Nothing is measured yet, so nothing is due.</li>
		{/each}
	</ul>
</div>
