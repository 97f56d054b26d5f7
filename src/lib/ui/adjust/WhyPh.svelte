<script lang="ts">
	/** Why pH is what it is: from the room's air, from alkalinity, or nobody can tell. */
	import { figures } from '$lib/ui/habits';
	import type { LowPhResult } from '$core/seawater';

	let { low }: { low: LowPhResult & { ph: number } } = $props();
</script>

<section aria-label="pH" class="mt-6" data-testid="low-ph">
	<h2>Why pH is what it is</h2>
	<p class="mt-1 text-sm">
		{#if low.verdict === 'not-low'}
			pH {figures(low.ph)} is in its band.
		{:else if low.verdict === 'carbon-dioxide'}
			pH {figures(low.ph)} is low though alkalinity is fine: the water holds {figures(low.pco2.value, 2)} µatm of
			carbon dioxide, where fresh air has 420. Open a window, or lead outside air to the skimmer, before any bottle.
			In fresh air this water would have pH {figures(low.inFreshAir)}.
		{:else if low.verdict === 'alkalinity'}
			pH {figures(low.ph)} is low because alkalinity is: in fresh air too it would only have {figures(
				low.inFreshAir
			)}. Bring alkalinity home.
		{:else if low.verdict === 'both'}
			pH {figures(low.ph)} is low for two reasons: too little alkalinity, and too much carbon dioxide in the room.
			Fresh air first.
		{:else}
			pH {figures(low.ph)} is low, and its error is too wide to say why. Measure it again in the afternoon, with
			a pen that was just calibrated.
		{/if}
	</p>
</section>
