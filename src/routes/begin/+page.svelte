<script lang="ts">
	import { enhance } from '$app/forms';
	import { onMount } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';

	let { data, form } = $props();
	const id = uuid();
	let zone = $state('');
	onMount(() => (zone = Intl.DateTimeFormat().resolvedOptions().timeZone));

	const problem = (path: string) => form?.problems?.find((p) => p.path.startsWith(path))?.message;
	const typed = (name: string, otherwise: string) => form?.typed?.[name] ?? otherwise;
</script>

{#snippet field(name: string, label: string, path: string, otherwise: string, numeric: boolean)}
	<label class="mt-3 block">
		<span class="text-sm text-faint">{label}</span>
		<input
			{name}
			class="block min-h-11 w-full rounded-lg border bg-sheet px-3 text-ink"
			inputmode={numeric ? 'decimal' : undefined}
			value={typed(name, otherwise)}
			aria-invalid={problem(path) ? 'true' : undefined}
			aria-describedby="problem-{name}"
		/>
		<span id="problem-{name}" class="text-sm text-brick" role="alert"
			>{problem(path) ? `▲ ${problem(path)}` : ''}</span
		>
	</label>
{/snippet}

<svelte:head><title>Begin · Tevrik</title></svelte:head>
<div class="mx-auto max-w-xl">
	<h1 class="mt-4">Your first tank</h1>
	<p class="mt-2">
		Tevrik reads a kit with you, gives every number its error, and shows what the water is doing. It needs to
		know where the water stands.
	</p>
	<form
		method="POST"
		action="?/make"
		use:enhance={() =>
			({ update }) =>
				update({ reset: false })}
		class="mt-2"
	>
		<input type="hidden" name="id" value={typed('id', id)} />
		{@render field('name', 'Its name', '/name', '', false)}
		{@render field('netVolumeL', 'Water in it, L (without rock and sand)', '/netVolumeL', '', true)}
		{@render field('timeZone', 'Time zone', '/timeZone', zone, false)}
		<fieldset class="mt-4 grid grid-cols-2 gap-3">
			<legend class="text-sm">
				Alkalinity you want, dKH. Raised levels, 8 to 9.5, for growth; natural levels, 6.5 to 8, where
				nutrients are low. Any band is yours to choose.
			</legend>
			{@render field('lower', 'from', '/alkalinity', '8', true)}
			{@render field('upper', 'to', '/alkalinity/upper', '9.5', true)}
		</fieldset>
		<Button type="submit" class="mt-5 min-h-14 w-full text-lg">Make it and measure</Button>
	</form>
	{#if data.empty}
		<form method="POST" action="?/demo" class="mt-4">
			<Button type="submit" color="alternative" class="min-h-11 w-full"
				>Look around with demo data first</Button
			>
		</form>
	{/if}
</div>
