<script lang="ts">
	import { enhance } from '$app/forms';
	import { onMount } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import Field from '$lib/ui/forms/Field.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';
	import { SCHOOLS } from '$core/targets';

	let { data, form } = $props();
	const id = uuid();
	let zone = $state('');
	onMount(() => (zone = Intl.DateTimeFormat().resolvedOptions().timeZone));

	let chosen = $state('raised levels');
	const school = $derived(SCHOOLS.find((s) => s.id === chosen));
	const band = $derived(school?.targets['alkalinity']);

	const typed = (name: string, otherwise: string) => form?.typed?.[name] ?? otherwise;
</script>

<svelte:head><title>Begin · Tevrik</title></svelte:head>
<div class="mx-auto max-w-xl">
	<h1 class="mt-4">{data.systems.length ? 'Another tank' : 'Your first tank'}</h1>
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
		<Field name="name" label="Its name" value={typed('name', '')} problem={problemAt(form, '/name')} />
		<Field
			name="netVolumeL"
			label="Water in it, L (without rock and sand)"
			hint="another unit may stand behind: 50 gal (US), 40 UK gal"
			value={typed('netVolumeL', '')}
			problem={problemAt(form, '/netVolumeL')}
		/>
		<Field
			name="timeZone"
			label="Time zone"
			value={typed('timeZone', zone)}
			problem={problemAt(form, '/timeZone')}
		/>
		<div class="mt-3 grid grid-cols-2 gap-3">
			<Label>
				What you aim at
				<Select class="w-full" placeholder="" name="school" bind:value={chosen}>
					{#each SCHOOLS as s (s.id)}<option value={s.id}>{s.title}</option>{/each}
					<option value="">my own bands</option>
				</Select>
			</Label>
			<Label>
				Stage
				<Select class="w-full" placeholder="" name="phase" value="settled">
					<option value="new">just filled</option>
					<option value="cycling">cycling</option>
					<option value="young">first months</option>
					<option value="settled">settled</option>
				</Select>
			</Label>
		</div>
		<p class="mt-1 text-sm text-faint">
			{school?.why ?? 'Bands come as you set them.'} Every band stays yours to change.
		</p>
		<fieldset class="mt-3 grid grid-cols-2 gap-3">
			<legend class="text-sm">Alkalinity you want, dKH</legend>
			{#key chosen}
				<Field
					name="lower"
					label="from"
					inputmode="decimal"
					value={typed('lower', String(band?.lower ?? 7))}
					problem={problemAt(form, '/alkalinity')}
				/>
				<Field
					name="upper"
					label="to"
					inputmode="decimal"
					value={typed('upper', String(band?.upper ?? 9))}
					problem={problemAt(form, '/alkalinity/upper')}
				/>
			{/key}
		</fieldset>
		<Button type="submit" class="mt-5 min-h-14 w-full text-lg">Make it and measure</Button>
	</form>
	{#if data.empty}
		<form method="POST" action="?/demo" class="mt-4">
			<Button type="submit" color="alternative" class="w-full">Look around with demo data first</Button>
		</form>
	{/if}
</div>
