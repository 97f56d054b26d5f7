<script lang="ts">
	/** One parameter as a glass tube: the level as liquid, its error as a soft edge, the band as marks, a trail beside it. */
	import { STATES } from '$lib/ui/wording';
	import type { Placing } from '$core/targets';

	interface Props {
		id: string;
		shown: [number, number];
		band: { lower: number; upper: number } | undefined;
		value: number | null;
		/** Half of a 95 % interval. */
		halfWidth: number;
		state: Placing['state'] | undefined;
		/** Days before now, value; newest last. */
		trail: { daysAgo: number; value: number }[];
	}
	let { id, shown, band, value, halfWidth, state, trail }: Props = $props();

	const GLASS = { x: 40, width: 40, top: 14, bottom: 286 };
	const TRAIL = { x: 86, width: 50, days: 60 };
	const y = (v: number) =>
		GLASS.bottom - 22 - ((Math.max(shown[0], Math.min(shown[1], v)) - shown[0]) / (shown[1] - shown[0])) * 232;
	const surface = $derived(value === null ? GLASS.bottom : y(value));
	const soft = $derived(value === null ? 0 : Math.max(2, y(value - halfWidth) - surface));
	const tone = $derived(state ? STATES[state].tone : 'moss');
	const path = $derived(
		trail
			.filter((t) => t.daysAgo <= TRAIL.days)
			.map((t) => `${TRAIL.x + TRAIL.width * (1 - t.daysAgo / TRAIL.days)},${y(t.value)}`)
	);
</script>

<svg viewBox="0 0 140 300" class="h-full w-full" aria-hidden="true">
	<defs>
		<linearGradient id="edge-{id}" x1="0" x2="0" y1="0" y2="1">
			<stop offset="0" stop-color="var(--liquid)" stop-opacity="0" />
			<stop offset="1" stop-color="var(--liquid)" stop-opacity="0.85" />
		</linearGradient>
		<clipPath id="glass-{id}">
			<path d="M{GLASS.x} {GLASS.top} v{GLASS.bottom - GLASS.top - 20} a20 20 0 0 0 {GLASS.width} 0 V{GLASS.top} z" />
		</clipPath>
	</defs>
	{#if value !== null}
		<g clip-path="url(#glass-{id})">
			<rect x={GLASS.x} width={GLASS.width} y={surface - soft} height={2 * soft} fill="url(#edge-{id})" />
			<rect
				x={GLASS.x}
				width={GLASS.width}
				y={surface + soft}
				height={Math.max(0, GLASS.bottom - surface - soft)}
				fill="var(--liquid)"
				opacity="0.85"
			/>
		</g>
		<line x1={GLASS.x} x2={GLASS.x + GLASS.width} y1={surface} y2={surface} stroke="var(--plum)" stroke-width="2" />
	{/if}
	<path
		d="M{GLASS.x - 5} {GLASS.top} h{GLASS.width + 10} M{GLASS.x} {GLASS.top} v{GLASS.bottom -
			GLASS.top -
			20} a20 20 0 0 0 {GLASS.width} 0 V{GLASS.top}"
		fill="none"
		stroke="var(--glass)"
		stroke-width="2"
		stroke-linecap="round"
		stroke-dasharray={value === null ? '3 5' : undefined}
	/>
	{#if band}
		<path
			d="M{GLASS.x - 8} {y(band.upper)} h-6 V{y(band.lower)} h6"
			fill="none"
			stroke="var(--{tone})"
			stroke-width="2.5"
		/>
		{#each [band.upper, band.lower] as end (end)}
			<text x="22" y={y(end)} text-anchor="end" dominant-baseline="central" font-size="12.5" class="figure" fill="var(--faint-ink)">
				{end}
			</text>
		{/each}
	{/if}
	{#if path.length > 1}
		<polyline points={path.join(' ')} fill="none" stroke="var(--plum)" stroke-width="1.4" opacity="0.55" />
		{#each path as at, i (i)}
			<circle cx={at.split(',')[0]} cy={at.split(',')[1]} r={i === path.length - 1 ? 3.4 : 1.8} fill="var(--plum)" />
		{/each}
	{/if}
</svg>
