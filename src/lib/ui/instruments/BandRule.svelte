<script lang="ts">
	/** A short ruler: the band, where the last test stood, and where this one lands with its error. */
	import { figures } from '$lib/ui/habits';

	interface Props {
		shown: readonly [number, number];
		band: { lower: number; upper: number } | undefined;
		last: number | null;
		value: number | null;
		interval: [number | null, number | null];
	}
	let { shown, band, last, value, interval }: Props = $props();
	let width = $state(400);
	const x = (v: number) =>
		10 + ((width - 20) * (Math.max(shown[0], Math.min(shown[1], v)) - shown[0])) / (shown[1] - shown[0]);
	const low = $derived(x(interval[0] ?? shown[0]));
	const high = $derived(x(interval[1] ?? shown[1]));
</script>

<div bind:clientWidth={width} class="overflow-hidden">
	<svg viewBox="0 0 {width} 74" {width} height="74" aria-hidden="true">
		{#if band}
			<rect
				x={x(band.lower)}
				width={x(band.upper) - x(band.lower)}
				y="26"
				height="22"
				fill="var(--moss-wash)"
			/>
			{#each [band.lower, band.upper] as end (end)}
				<line x1={x(end)} x2={x(end)} y1="22" y2="52" stroke="var(--moss)" stroke-width="1.5" />
				<text x={x(end)} y="68" text-anchor="middle" font-size="13" class="figure" fill="var(--faint-ink)"
					>{figures(end, 5)}</text
				>
			{/each}
		{/if}
		<line x1="10" x2={width - 10} y1="37" y2="37" stroke="var(--glass)" />
		{#if last !== null}
			<circle cx={x(last)} cy="37" r="5" fill="var(--paper)" stroke="var(--faint-ink)" stroke-width="2" />
			<text x={x(last)} y="16" text-anchor="middle" font-size="13" fill="var(--faint-ink)">last</text>
		{/if}
		<rect
			x={low}
			width={Math.max(2, high - low)}
			y="33"
			height="8"
			rx="4"
			fill="var(--plum)"
			opacity="0.35"
		/>
		{#if value !== null}<circle cx={x(value)} cy="37" r="6.5" fill="var(--plum)" />{/if}
	</svg>
</div>
