<script lang="ts">
	/** Changing water, knowing how much of it there is, and why pH is low. */
	import NetVolume from '$lib/ui/adjust/NetVolume.svelte';
	import NewWater from '$lib/ui/adjust/NewWater.svelte';
	import WhyPh from '$lib/ui/adjust/WhyPh.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const system = $derived(data.system);
</script>

<Title of="Water and volume" />
<p class="text-sm"><a class="link" href="/s/{system.id}/adjust">Adjust</a></p>
<h1>Water and volume</h1>
<div class="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
	<NewWater {system} levels={data.levels} />
	<div class="min-w-0 lg:border-l lg:pl-6">
		<NetVolume {system} levels={data.levels} shelf={data.shelf} volumeError={data.volumeError} />
		{#if data.low}<WhyPh low={data.low} />{/if}
	</div>
</div>
