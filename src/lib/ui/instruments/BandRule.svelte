<script lang="ts">
	/** A short ruler: the band, where the last test stood, and where this one lands with its error. */
	interface Props {
		shown: [number, number];
		band: { lower: number; upper: number } | undefined;
		last: number | null;
		value: number | null;
		interval: [number | null, number | null];
	}
	let { shown, band, last, value, interval }: Props = $props();
	const x = (v: number) => 10 + (380 * (Math.max(shown[0], Math.min(shown[1], v)) - shown[0])) / (shown[1] - shown[0]);
	const low = $derived(x(interval[0] ?? shown[0]));
	const high = $derived(x(interval[1] ?? shown[1]));
</script>

<svg viewBox="0 0 400 74" class="w-full" aria-hidden="true">
	{#if band}
		<rect x={x(band.lower)} width={x(band.upper) - x(band.lower)} y="26" height="22" fill="var(--moss-wash)" />
		{#each [band.lower, band.upper] as end (end)}
			<line x1={x(end)} x2={x(end)} y1="22" y2="52" stroke="var(--moss)" stroke-width="1.5" />
			<text x={x(end)} y="68" text-anchor="middle" font-size="14" class="figure" fill="var(--faint-ink)">{end}</text>
		{/each}
	{/if}
	<line x1="10" x2="390" y1="37" y2="37" stroke="var(--glass)" />
	{#if last !== null}
		<circle cx={x(last)} cy="37" r="5" fill="var(--paper)" stroke="var(--faint-ink)" stroke-width="2" />
		<text x={x(last)} y="16" text-anchor="middle" font-size="13" fill="var(--faint-ink)">last</text>
	{/if}
	<rect x={low} width={Math.max(2, high - low)} y="33" height="8" rx="4" fill="var(--plum)" opacity="0.35" />
	{#if value !== null}<circle cx={x(value)} cy="37" r="6.5" fill="var(--plum)" />{/if}
</svg>
