<script lang="ts">
	import { enhance } from '$app/forms';
	import { onMount } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { formatUnit } from '$core/quantities';
	import { SCHOOLS } from '$core/targets';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';
	import { figures, typedAs, unitFor, usualUnits, language } from '$lib/ui/habits';
	import { bandFor, volumeUnit } from '$lib/ui/mine';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data, form } = $props();
	const id = uuid();
	let zone = $state('');
	onMount(() => (zone = Intl.DateTimeFormat().resolvedOptions().timeZone));

	let chosen = $state('raised levels');
	const school = $derived(SCHOOLS.find((s) => s.id === chosen));
	const band = $derived(school?.targets['alkalinity'] && bandFor('alkalinity', school.targets['alkalinity']));
	/** Before anybody chose, the unit people of this language have; it goes along, since the field says it. */
	const unit = data.habits.units?.volume ?? usualUnits(language()).volume ?? volumeUnit();

	const typed = (name: string, otherwise: string) => form?.typed?.[name] ?? otherwise;
</script>

<Title of="Begin" />
<div class="mx-auto max-w-xl">
	<h1 class="mt-4">{data.systems.length ? 'Another tank' : 'Your first tank'}</h1>
	<p class="mt-1 text-sm text-faint">
		Its water, and what you aim at. All of it can be changed later, in the room called Tank.
	</p>
	<form
		method="POST"
		action="?/make"
		use:enhance={() =>
			({ update }) =>
				update({ reset: false })}
	>
		<input type="hidden" name="id" value={typed('id', id)} />
		<Field
			name="name"
			label="Its name"
			autofocus
			value={typed('name', '')}
			problem={problemAt(form, '/name')}
		/>
		<div class="grid grid-cols-[minmax(0,1fr)_8rem] items-start gap-3">
			<Field
				name="netVolumeL"
				label="Water in it, without rock and sand"
				inputmode="decimal"
				value={typed('netVolumeL', '')}
				problem={problemAt(form, '/netVolumeL')}
			/>
			<Label class="mt-3">
				in
				<Select class="w-full" placeholder="" name="volumeUnit" value={typed('volumeUnit', unit)}>
					{#each ['L', 'US gal', 'UK gal'] as u (u)}<option value={u}>{formatUnit(u)}</option>{/each}
				</Select>
			</Label>
		</div>
		<div class="mt-1 grid grid-cols-2 gap-3">
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
		<p class="mt-1 min-h-10 text-sm text-faint">
			{school?.why ?? 'Bands come as you set them.'}
			{#if band}Alkalinity {figures(band.lower)} to {figures(band.upper)}
				{formatUnit(unitFor('alkalinity'))}, and so on; every band stays yours to change.{/if}
		</p>
		{#if !school}
			<fieldset class="grid grid-cols-2 gap-3">
				<legend class="text-sm">Alkalinity you want, {formatUnit(unitFor('alkalinity'))}</legend>
				<Field
					name="lower"
					label="from"
					inputmode="decimal"
					value={typed('lower', typedAs(bandFor('alkalinity', { lower: 7, upper: 9 }).lower))}
					problem={problemAt(form, '/alkalinity')}
				/>
				<Field
					name="upper"
					label="to"
					inputmode="decimal"
					value={typed('upper', typedAs(bandFor('alkalinity', { lower: 7, upper: 9 }).upper))}
					problem={problemAt(form, '/alkalinity/upper')}
				/>
			</fieldset>
		{/if}
		<Field
			name="timeZone"
			label="Time zone of its evenings"
			value={typed('timeZone', zone)}
			problem={problemAt(form, '/timeZone')}
		/>
		<Trouble says={problemAt(form, '')} />
		<Button type="submit" class="mt-3 min-h-14 w-full text-lg">Make the tank</Button>
	</form>
	{#if data.empty}
		<form method="POST" action="?/demo" class="mt-4">
			<Button type="submit" color="alternative" class="w-full">Look around with demo data first</Button>
		</form>
	{/if}
</div>
