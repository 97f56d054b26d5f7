<script lang="ts">
	/** A kit for the shelf: by how it looks and the chart of its leaflet, or as a copy of another. */
	import { tick } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import { invalidateAll } from '$app/navigation';
	import type { Method } from '$core/instruments';
	import { nameInSentence } from '$core/catalogue';
	import KitForm from '$lib/ui/shelf/KitForm.svelte';
	import MethodEditor from '$lib/ui/shelf/MethodEditor.svelte';
	import { copyOf } from '$lib/ui/shelf/fresh-method';
	import { stands } from '$lib/ui/shelf/kit-draft';
	import { unitFor } from '$lib/ui/habits';
	import { plural } from '$lib/ui/words/plural';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const id = uuid();
	const shelf = $derived(`/s/${data.system.id}/shelf`);

	let saved: { id: string; profile: Method; again: number } | undefined = $state.raw();
	/** With the one that the page has not heard of yet: what stands beside it does not move under a finger. */
	const kits = $derived(data.shelf.length + Number(!!saved && !data.shelf.some((k) => k.id === saved?.id)));
	let done: HTMLElement | undefined = $state();
	async function onsaved(kit: typeof saved) {
		saved = kit;
		await tick();
		// What comes next is one key away.
		done?.querySelector<HTMLElement>('a, button')?.focus();
		await invalidateAll();
	}
</script>

<Title of="A kit for the shelf" />
{#if data.from}
	<h1>A copy of {data.from.name}</h1>
	<MethodEditor start={copyOf(data.from)} {id} basedOn={0} {shelf} />
{:else}
	<div class="flex flex-wrap items-center gap-x-4">
		<h1>{data.shelf.length ? 'Another kit for the shelf' : 'Your first kit'}</h1>
		<span class="flex-1"></span>
		<a class="link flex min-h-11 items-center text-sm" href="/s/{data.system.id}/rack">Later</a>
	</div>
	<p class="max-w-prose text-sm text-faint">
		No two kits share a factor: a number is as true as the chart it came by. Pick how yours is read, then give
		it the chart of its own leaflet.
	</p>
	{#if saved}
		<div
			bind:this={done}
			class="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 rounded-lg bg-moss-wash px-3 py-2"
			role="status"
			data-testid="on-shelf"
		>
			<span class="me-auto"
				>● {saved.profile.name} is on your shelf{stands(saved.profile) === 'without'
					? ', without its chart'
					: ''}.{saved.again
					? ` ${plural(saved.again, 'earlier reading')} computed again by its chart.`
					: ''}</span
			>
			<Button href="/s/{data.system.id}/bench/one?of={saved.profile.parameter}&with={saved.id}"
				>Measure {nameInSentence(saved.profile.parameter)}</Button
			>
			{#if kits > 1}
				<Button color="alternative" href="/s/{data.system.id}/bench"
					>An evening with {plural(kits, 'kit')}</Button
				>
			{/if}
			<a class="link flex min-h-11 items-center text-sm" href={shelf}>To the shelf</a>
		</div>
	{/if}
	<KitForm shelf={data.shelf} {unitFor} templateIds={data.templateIds} {onsaved} />
{/if}
