<script lang="ts">
	import '../app.css';
	import { onMount } from 'svelte';
	import { browser } from '$app/environment';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import ThemeProvider from 'flowbite-svelte/ThemeProvider.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { handedTo } from '$lib/ui/forget';
	import { habitsFrom } from '$lib/ui/habits';
	import { openOutbox } from '$lib/ui/outbox.svelte';
	import { foldIn } from '$lib/ui/shell/fold';
	import Rooms from '$lib/ui/shell/Rooms.svelte';
	import { THEME } from '$lib/ui/shell/theme';
	import ThemeSwitch from '$lib/ui/shell/ThemeSwitch.svelte';
	import Waiting from '$lib/ui/shell/Waiting.svelte';

	let { data, children } = $props();
	// Before anything is drawn: every number and date below is written as this person has it.
	// On the server they follow from the request.
	if (browser) habitsFrom(() => data.habits);
	const system = $derived(page.params['system']);
	const room = $derived(page.url.pathname.split('/')[3] ?? 'rack');

	/** Where a tank is made; it stands behind those there are. */
	const ANOTHER = '/begin';
	/** A session at the bench has the whole screen. */
	const alone = $derived(room === 'bench' && page.url.searchParams.has('run'));

	/** Paper is white at night too: charts are drawn anew for it. */
	const paper = {
		night: false,
		on: () => (paper.night = document.documentElement.classList.replace('dark', 'on-paper')),
		off: () => {
			if (paper.night) document.documentElement.classList.replace('on-paper', 'dark');
		}
	};

	onMount(() => {
		// Tests and pictures wait for this: from here on the page answers.
		document.documentElement.dataset['ready'] = '';
	});
	// What waits on this device goes out for the person who wrote it, and for nobody else.
	$effect(() => {
		if (data.person) handedTo(data.person.id);
		return openOutbox(data.person?.id);
	});
</script>

<svelte:window onkeydown={foldIn} onbeforeprint={paper.on} onafterprint={paper.off} />

<ThemeProvider theme={THEME}>
	<div class="flex min-h-screen flex-col">
		<a
			href="#main"
			class="sr-only print:hidden focus:not-sr-only focus:absolute focus:z-20 focus:bg-sheet focus:p-3"
			>To the content</a
		>
		<header
			class="{alone
				? 'hidden'
				: 'flex'} print:hidden flex-wrap items-center gap-x-3 border-b px-4 py-1 max-sm:gap-x-1"
		>
			<a href="/" class="flex min-h-11 min-w-11 items-center gap-2 text-lg font-semibold tracking-tight">
				<img src="/icon.svg" alt="" class="size-7 shrink-0" />
				<span class={system ? 'max-sm:sr-only' : ''}>Tevrik</span>
			</a>
			{#if system && data.systems.length}
				<Label class="flex min-w-20 items-center gap-2 max-sm:flex-1">
					<span class="sr-only">Tank</span>
					<Select
						class="max-w-48 min-w-0 max-sm:w-full max-sm:max-w-none"
						placeholder=""
						value={system}
						onchange={(e) =>
							goto(e.currentTarget.value === ANOTHER ? ANOTHER : `/s/${e.currentTarget.value}/${room}`)}
					>
						{#each data.systems as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
						<option value={ANOTHER}>Another tank…</option>
					</Select>
				</Label>
			{/if}
			{#if data.systems.length > 1}
				<a
					href="/tanks"
					class="flex min-h-11 items-center px-1 text-sm text-faint hover:text-ink max-sm:hidden"
					aria-current={page.url.pathname === '/tanks' ? 'page' : undefined}>All {data.systems.length}</a
				>
			{/if}
			<span class="flex-1 {system ? 'max-sm:hidden' : ''}"></span>
			{#if !alone}<Waiting />{/if}
			{#if data.person}
				<a
					href="/account"
					class="flex min-h-11 max-w-40 min-w-11 items-center rounded-lg px-2 max-sm:max-w-20 text-sm text-faint hover:bg-plum-wash hover:text-ink"
					><span class="sr-only">Account of </span><span class="truncate">{data.person.name}</span></a
				>
			{/if}
			<ThemeSwitch />
		</header>
		{#if alone}<Waiting floating />{/if}
		<div class="flex flex-1">
			{#if system && !alone}<Rooms {system} />{/if}
			<main id="main" class="min-w-0 flex-1 {alone ? '' : 'px-4 pt-3 pb-20 md:pb-4 print:p-0'}">
				{@render children()}
			</main>
		</div>
	</div>
</ThemeProvider>
