<script lang="ts">
	import Button from 'flowbite-svelte/Button.svelte';
	import { PARAMETERS, nameInSentence } from '$core/catalogue';
	import { parameterFor } from '$lib/ui/habits';
	import AsOf from '$lib/ui/shell/AsOf.svelte';
	import All from '$lib/ui/trends/All.svelte';
	import One from '$lib/ui/trends/One.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const parameter = $derived(parameterFor(data.of)!);
	const shown = $derived(
		PARAMETERS.filter((p) => data.measured.includes(p.id) || (p.id === data.of && data.one))
	);
	/** On a phone all stand in one row that moves; the one that is looked at is in sight. */
	const inView = (nav: HTMLElement) => {
		const here = nav.querySelector<HTMLElement>('[aria-current]');
		if (here) nav.scrollLeft = here.offsetLeft - nav.clientWidth / 2 + here.clientWidth / 2;
	};
	const place =
		'flex min-h-11 min-w-11 shrink-0 items-center justify-center rounded-lg px-2.5 text-faint hover:text-ink aria-[current]:bg-plum-wash aria-[current]:font-semibold aria-[current]:text-plum';
</script>

<Title of={data.one ? [parameter.title, 'Trends'] : 'Trends'} />

<div class="flex flex-wrap items-center gap-x-4 gap-y-1">
	<h1>{data.one ? parameter.title : 'All on one axis'}</h1>
	<nav
		aria-label="Parameter"
		class="flex gap-1 max-md:-mx-4 max-md:w-screen max-md:overflow-x-auto max-md:px-4 md:flex-wrap"
		{@attach inView}
	>
		{#each shown as p (p.id)}
			<a href="?of={p.id}" aria-current={p.id === data.of && data.one ? 'true' : undefined} class={place}
				>{p.title}</a
			>
		{/each}
		<a href="?view=all" aria-current={data.one ? undefined : 'true'} class={place}>All</a>
	</nav>
</div>

<AsOf asOf={data.one?.asOf} timeZone={data.system.timeZone} />
{#if data.all}
	<All
		all={data.all}
		bands={data.bands}
		now={data.now}
		timeZone={data.system.timeZone}
		system={data.system.id}
	/>
{:else if data.one?.newest.id.length}
	<One
		{parameter}
		one={data.one}
		system={data.system}
		bottles={data.bottles ?? []}
		band={data.bands[parameter.id]}
		events={data.events}
		now={data.now}
	/>
{:else}
	<div class="mt-6 max-w-prose">
		<p>
			No {nameInSentence(parameter.id)} yet. Each test becomes a point here with its error, against your band, so
			that you see a drift before it matters.
		</p>
		<Button class="mt-4" href="/s/{data.system.id}/bench/one?of={parameter.id}">
			Measure {nameInSentence(parameter.id)}
		</Button>
	</div>
{/if}
