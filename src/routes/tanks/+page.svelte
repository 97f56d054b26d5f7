<script lang="ts">
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import { nameInSentence } from '$core/catalogue';
	import { dateAndTime } from '$lib/ui/when';
	import { judgementInWords } from '$lib/ui/words/judgements';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	type Stop = Awaited<typeof data.round>[number];
	let stops: Stop[] | undefined = $state.raw();
	let failed = $state(false);
	$effect(() => {
		data.round.then(
			(found: Stop[]) => (stops = found),
			() => (failed = true)
		);
	});
	let search = $state('');
	const rows = $derived(
		(stops ?? data.systems.map((s): Partial<Stop> & { id: string } => ({ id: s.id })))
			.map((stop) => ({ ...stop, system: data.systems.find((s) => s.id === stop.id)! }))
			.filter((r) => r.system?.name.toLowerCase().includes(search.trim().toLowerCase()))
	);
	const MARKS = { brick: '▲', saffron: '◐', moss: '●' } as const;
	const names = (ids: string[]) => ids.map((id) => nameInSentence(id)).join(', ');
</script>

<Title of="All tanks" />
<div class="flex flex-wrap items-center gap-3">
	<h1>All tanks</h1>
	<span class="text-sm text-faint" aria-live="polite"
		>{stops
			? 'those that worry first'
			: failed
				? 'how they fare could not be worked out'
				: 'looking at each…'}</span
	>
	<span class="flex-1"></span>
	{#if data.systems.length > 8}
		<Input placeholder="Find a tank" aria-label="Find a tank" bind:value={search} />
	{/if}
	<Button href="/begin" color="alternative">Another tank</Button>
</div>
<ul class="mt-2 divide-y border-y" data-testid="round">
	{#each rows as row (row.id)}
		<li>
			<a
				href="/s/{row.id}/rack"
				class="grid min-h-14 items-center gap-x-4 py-1.5 hover:bg-plum-wash md:grid-cols-[14rem_1fr_16rem]"
			>
				<span class="font-medium">{row.system.name}</span>
				<span class="leading-snug">
					{#if row.worst}
						{@const words = judgementInWords(row.worst, data.now, row.system.timeZone)}
						<span class="text-{words.tone}" aria-hidden="true">{MARKS[words.tone]}</span>
						{words.text}
						{#if row.asOf}<span class="text-sm text-faint"
								>as of {dateAndTime(row.asOf, row.system.timeZone)}</span
							>{/if}
						{#if (row.concerns ?? 0) > 1}<span class="text-sm text-faint">
								and {row.concerns! - 1} more</span
							>{/if}
					{:else if row.asOf === null}<span class="text-saffron" aria-hidden="true">◐</span> still being computed:
						reload this page in a moment
					{:else if stops}<span class="text-moss" aria-hidden="true">●</span> nothing to worry about{/if}
				</span>
				<span class="text-sm text-faint">
					{row.due?.length ? `due: ${names(row.due)}` : ''}
					{row.system.role === 'viewer' ? '· you look on' : ''}
				</span>
			</a>
		</li>
	{/each}
</ul>
