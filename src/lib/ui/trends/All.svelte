<script lang="ts">
	/** Every parameter of a tank on one time axis, and two of them against each other. Lines come as their models are done. */
	import type { Band } from '$core/targets';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { inRows } from '$lib/api/columns';
	import type { LevelPoint, Way } from '$lib/api/trends';
	import { wayFor } from '$lib/ui/mine';
	import AsOf from '$lib/ui/shell/AsOf.svelte';
	import Small from '$lib/ui/charts/Small.svelte';
	import Versus from '$lib/ui/charts/Versus.svelte';

	interface Props {
		all: { from: string | null; lines: { parameter: string; way: Promise<Way> }[] };
		bands: Record<string, Band>;
		now: string;
		timeZone: string;
		system: string;
	}
	let { all, bands, now, timeZone, system }: Props = $props();

	let ways: Record<string, LevelPoint[]> = $state.raw({});
	let failed = $state(false);
	let oldest: string | null | undefined = $state();
	$effect(() => {
		const asked = all;
		oldest = undefined;
		for (const { parameter, way } of asked.lines)
			way.then(
				({ points, asOf }) => {
					if (asked !== all) return;
					ways = { ...ways, [parameter]: wayFor(parameter, inRows(points)) };
					// Of several the oldest is said; one that was never worked out is older than any.
					if (asOf === null || (asOf !== undefined && oldest !== null && asOf < (oldest ?? '~')))
						oldest = asOf;
				},
				() => (failed = true)
			);
	});
	const complete = $derived(all.lines.every((l) => l.parameter in ways));
</script>

{#if all.from}
	<AsOf asOf={oldest} {timeZone} />
	<Small
		lines={all.lines.map(({ parameter }) => ({ parameter, way: ways[parameter] }))}
		from={Date.parse(all.from)}
		to={Date.parse(now)}
		{bands}
		{timeZone}
		{system}
	/>
	<Trouble says={failed ? 'Some lines did not arrive. Load the page again to ask once more.' : undefined} />
	{#if complete}<Versus {ways} />{/if}
{:else}
	<p class="mt-6">Nothing is measured yet; each parameter gets a line here.</p>
{/if}
