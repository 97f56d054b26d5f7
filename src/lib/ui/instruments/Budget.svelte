<script lang="ts">
	/** Where a result's error comes from: half of a 95 % interval from each source, and whether it stays with the kit. */
	import { figures } from '$lib/ui/habits';
	import type { Contribution } from '$core/instruments';
	import { COVERAGE_95 } from '$core/statistics';

	let { budget }: { budget: Contribution[] | undefined } = $props();
</script>

<details class="mt-3 text-sm">
	<summary class="min-h-11 cursor-pointer py-2.5 text-faint">Where the error comes from</summary>
	{#if budget?.length}
		<table class="mt-1 w-full max-w-md">
			<caption class="sr-only">Error budget: half of a 95 % interval from each source</caption>
			<tbody>
				{#each budget as part (part.source)}
					<tr class="border-t">
						<th scope="row" class="py-1 text-start font-normal">{part.source}</th>
						<td class="py-1 text-faint"
							>{part.kind === 'trueness' ? 'stays with the kit' : 'anew each test'}</td
						>
						<td class="figure py-1 text-end">± {figures(COVERAGE_95 * part.standardUncertainty, 2)}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	{:else}
		<p class="text-faint">Read the instrument first.</p>
	{/if}
</details>
