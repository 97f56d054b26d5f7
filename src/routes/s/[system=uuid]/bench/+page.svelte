<script lang="ts">
	import { page } from '$app/state';
	import Pours from '$lib/ui/adjust/Pours.svelte';
	import { openTicks } from '$lib/ui/adjust/ticks.svelte';
	import Evening from '$lib/ui/bench/Evening.svelte';
	import Running from '$lib/ui/bench/Running.svelte';

	let { data } = $props();
	const ticks = openTicks(
		() => data.pours?.plan,
		() => data.now
	);
	const run = $derived(page.url.searchParams.get('run'));
</script>

<svelte:head><title>{data.system.name} · Bench · Tevrik</title></svelte:head>

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
			pours={data.pours?.steps ?? []}
			{ticks}
			now={data.now}
		/>
	{/key}
{:else}
	{#key data.system.id}
		<Evening
			system={data.system}
			sources={data.sources}
			methods={data.methods}
			latest={data.latest}
			packs={data.packs}
			due={data.due}
			open={data.open}
			now={data.now}
		/>
	{/key}
	{#if data.pours?.steps.length}
		<Pours steps={data.pours.steps} {ticks} system={data.system} />
	{/if}
{/if}
