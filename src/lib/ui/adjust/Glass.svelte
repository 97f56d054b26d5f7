<script lang="ts">
	/** What is poured, as a glass that is as full as the day's share of what animals take. */
	let { fill, kind }: { fill: number; kind: string } = $props();
	const top = $derived(20 - 15 * Math.max(0.12, Math.min(1, fill)));
</script>

<svg viewBox="0 0 20 24" class="h-6 w-5 shrink-0" aria-hidden="true">
	{#if kind === 'test'}
		<path d="M7 2h6M8 2v15a2 2 0 0 0 4 0V2M8 12h4" class="line" />
	{:else if kind === 'water-change' || kind === 'fresh-water'}
		<path d="M3 6h14l-2 15H5zM4 11c2 1.6 4 1.6 6 0s4-1.6 6 0" class="line" />
	{:else if kind === 'dosing-rate'}
		<path d="M5 3h10v8l-3 3v4h-4v-4l-3-3zM10 20v2" class="line" />
	{:else if kind === 'wait'}
		<path d="M4 13l4 4 8-10" class="line" />
	{:else}
		<path d="M4 {top}H16L15 21H5z" class="liquid" />
		<path d="M3 5l2 16h10l2-16" class="line" />
	{/if}
</svg>

<style>
	.line {
		fill: none;
		stroke: currentColor;
		stroke-width: 1.5;
		stroke-linecap: round;
		stroke-linejoin: round;
	}
	.liquid {
		fill: var(--liquid);
	}
</style>
