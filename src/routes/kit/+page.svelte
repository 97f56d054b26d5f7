<script lang="ts">
	/** Another keeper's kit, from the link it came by: looked at, then put on the shelf. */
	import { figures } from '$lib/ui/habits';
	import { onMount } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import { goto } from '$app/navigation';
	import { INSTRUMENTS, instrumentOf, type Method } from '$core/instruments';
	import { checkMethod, hasOwnChart } from '$core/methods';
	import type { Problem } from '$core/base';
	import { formatUnit } from '$core/quantities';
	import { parameterOf } from '$core/catalogue';
	import { below } from '$lib/client/api';
	import { saveMethod } from '$lib/client/commands';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { unpacked } from '$lib/ui/shelf/kit-link';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const id = uuid();
	let kit: Method | null | undefined = $state.raw();
	let problems: Problem[] = $state.raw([]);

	async function open() {
		const found = (await unpacked(location.hash.slice(1))) as Method | undefined;
		// What is drawn has to be a method; the server looks at all of it before it is kept.
		const isOne = found && typeof found.name === 'string' && Object.hasOwn(INSTRUMENTS, found.reads);
		kit = isOne ? found : null;
	}
	onMount(open);
	const flaws = $derived.by(() => {
		try {
			return kit ? checkMethod(kit) : [];
		} catch {
			return [{ path: '', message: 'is no kit that can be read' }];
		}
	});
	const chart = $derived(
		kit && 'scale' in kit
			? kit.scale.kind === 'table'
				? `a chart of ${kit.scale.points.length} lines`
				: 'perMl' in kit.scale
					? `${figures(kit.scale.perMl, 4)} ${formatUnit(kit.unit)} for each mL used`
					: `${figures(kit.scale.perDrop, 4)} ${formatUnit(kit.unit)} for each drop`
			: kit && 'shades' in kit
				? `patches ${kit.shades.map((s) => figures(s)).join(' · ')} ${formatUnit(kit.unit)}`
				: undefined
	);
	async function take() {
		const saved = await saveMethod(id, { profile: kit! });
		problems = saved.ok ? [] : below('/profile', saved.problems);
		const tank = data.systems[0];
		if (saved.ok) await goto(tank ? `/s/${tank.id}/shelf` : '/', { invalidateAll: true });
	}
</script>

<svelte:window onhashchange={open} />
<Title of="A kit" />
<div class="mx-auto max-w-xl">
	<h1 class="mt-4">{kit ? kit.name : 'A kit from another keeper'}</h1>
	{#if kit}
		<p class="mt-2">
			{parameterOf(kit.parameter)?.title ?? kit.parameter}, read by {instrumentOf(kit).name}{chart
				? `: ${chart}`
				: ''}.
		</p>
		{#if hasOwnChart(kit)}
			<p class="mt-2">
				Hold it against your own leaflet before you trust it: batches differ, and the number is only as true
				as its chart.
			</p>
		{:else}
			<p class="mt-2">○ It comes without a chart: type your leaflet’s once it is on your shelf.</p>
		{/if}
		{#each [...flaws, ...problems] as p (p.path + p.message)}
			<Trouble says="{p.path.replaceAll('/', ' ').trim()} {p.message}" />
		{/each}
		<Button class="mt-4 min-h-14 w-full text-lg" onclick={take} disabled={flaws.length > 0}
			>Put it on my shelf</Button
		>
	{:else if kit === null}
		<p class="mt-2">
			This link holds no kit: it may have been cut off on its way. Ask for it again, or for the kit as a file.
		</p>
		<p class="mt-2"><a class="link" href="/">To your tanks</a></p>
	{/if}
</div>
