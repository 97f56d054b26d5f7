<script lang="ts">
	import { afterNavigate } from '$app/navigation';
	import { page } from '$app/state';
	import Button from 'flowbite-svelte/Button.svelte';
	import { parameterOf } from '$core/quantities';
	import SyringeBench from '$lib/ui/instruments/SyringeBench.svelte';

	let { data } = $props();

	const asked = $derived(page.url.searchParams.get('of'));
	let chosenMethod: string | undefined = $state();
	let chosenSource: string | undefined = $state();

	const method = $derived(
		data.methods.find((m) => m.versionId === chosenMethod) ??
			data.methods.find(
				(m) => m.id === data.latest.find((r) => r.parameter === (asked ?? 'alkalinity'))?.methodId
			) ??
			data.methods.find((m) => m.profile.parameter === (asked ?? 'alkalinity')) ??
			data.methods[0]
	);
	const source = $derived(data.sources.find((s) => s.id === chosenSource) ?? data.sources[0]);
	const parameter = $derived(parameterOf(method?.profile.parameter ?? ''));

	afterNavigate(() => {
		chosenMethod = chosenSource = undefined;
	});
</script>

<svelte:head><title>{data.system.name} · Bench · Tevrik</title></svelte:head>

{#if method && source && parameter && method.profile.reads === 'syringe'}
	<div class="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
		<h1 class="max-md:sr-only">Bench</h1>
		<label class="flex items-center gap-2 text-sm text-faint max-md:w-full">
			Method
			<select
				class="min-h-11 min-w-0 flex-1 rounded-lg border bg-sheet py-1 ps-3 pe-9 text-ink"
				value={method.versionId}
				onchange={(e) => (chosenMethod = e.currentTarget.value)}
			>
				{#each data.methods as m (m.versionId)}<option value={m.versionId}>{m.profile.name}</option>{/each}
			</select>
		</label>
		<label class="flex items-center gap-2 text-sm text-faint max-md:w-full">
			Water
			<select
				class="min-h-11 min-w-0 flex-1 rounded-lg border bg-sheet py-1 ps-3 pe-9 text-ink"
				value={source.id}
				onchange={(e) => (chosenSource = e.currentTarget.value)}
			>
				{#each data.sources as s (s.id)}
					<option value={s.id}>{s.name}{s.kind === 'tank' ? '' : `, ${s.kind}`}</option>
				{/each}
			</select>
		</label>
	</div>
	{#key `${method.versionId}/${source.id}`}
		<SyringeBench
			method={method.profile}
			versionId={method.versionId}
			systemId={data.system.id}
			sourceId={source.id}
			{parameter}
			band={source.kind === 'tank' ? data.bands[parameter.id] : undefined}
			last={source.kind === 'tank' ? data.latest.find((r) => r.parameter === parameter.id) : undefined}
			now={data.now}
			timeZone={data.system.timeZone}
		/>
	{/key}
{:else}
	<h1>Bench</h1>
	<p class="mt-2">There is no method to read with yet.</p>
	<Button href="/" class="mt-4">To the rack</Button>
{/if}
