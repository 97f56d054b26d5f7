<script lang="ts">
	import { page } from '$app/state';
	import type { PoursView } from '$lib/ui/adjust/plan-view';
	import Pours from '$lib/ui/adjust/Pours.svelte';
	import { openTicks } from '$lib/ui/adjust/ticks.svelte';
	import AsOf from '$lib/ui/shell/AsOf.svelte';
	import PlanSession from '$lib/ui/bench/PlanSession.svelte';
	import Running from '$lib/ui/bench/Running.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const ticks = openTicks(
		() => data.pours?.plan,
		() => data.now
	);
	/** What was ticked here stays where it is, with its undo, though the server asks for it no more. */
	let seen: { plan: string | undefined; steps: PoursView['steps'] } = { plan: undefined, steps: [] };
	const pours = $derived.by(() => {
		const open = data.pours?.steps ?? [];
		const ticked = seen.plan === data.pours?.plan ? seen.steps.filter((s) => ticks.isDone(s.place)) : [];
		const steps = [...open, ...ticked.filter((s) => !open.some((o) => o.place === s.place))];
		seen = { plan: data.pours?.plan, steps: steps.sort((a, b) => a.place - b.place) };
		return seen.steps;
	});
	const run = $derived(page.url.searchParams.get('run'));
</script>

<Title of="Bench" />

{#if run}
	{#key run}
		<Running
			id={run}
			known={data.run?.record.id === run ? data.run : undefined}
			system={data.system}
			sources={data.sources}
			methods={data.methods}
			latest={data.latest}
			bands={data.bands}
			levels={data.levels}
			packs={data.packs}
			proved={data.proved}
			{pours}
			{ticks}
			now={data.now}
		/>
	{/key}
{:else}
	<AsOf asOf={data.asOf} timeZone={data.system.timeZone} />
	{#key data.system.id}
		<PlanSession
			system={data.system}
			sources={data.sources}
			methods={data.methods}
			latest={data.latest}
			packs={data.packs}
			due={data.due}
			open={data.open}
			planned={data.planned}
			asked={page.url.searchParams.get('tests')?.split(' ') ?? []}
			now={data.now}
		/>
	{/key}
	{#if pours.length}
		<Pours steps={pours} {ticks} system={data.system} />
	{/if}
{/if}
