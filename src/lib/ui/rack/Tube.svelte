<script lang="ts">
	/** One parameter as a glass tube: the level as liquid, its error as a soft edge, the band as marks, a trail beside it. */
	import { figures } from '$lib/ui/habits';
	import { STATES } from '$lib/ui/wording';
	import type { Placing } from '$core/targets';

	interface Props {
		id: string;
		shown: readonly [number, number];
		band: { lower: number; upper: number } | undefined;
		value: number | null;
		/** Half of a 95 % interval. */
		halfWidth: number;
		state: Placing['state'] | undefined;
		/** Days before now, value; newest last. */
		trail: { daysAgo: number; value: number }[];
		/** Where it is heading: the forecast of the next days, with half of its 95 % interval. */
		heading?: { mean: number; halfWidth: number }[];
	}
	let { id, shown, band, value, halfWidth, state, trail, heading = [] }: Props = $props();

	const GLASS = { x: 31, width: 30, top: 10, bottom: 290 };
	const TRAIL = { x: 65, width: 16, days: 60 };
	const AHEAD = { x: 81, width: 11 };
	/** Levels run from the round of the bottom to just below the rim. */
	const SCALE = { low: 262, high: 34 };
	const share = (v: number) => (v - shown[0]) / (shown[1] - shown[0]);
	const y = (v: number) => SCALE.low - Math.max(-0.06, Math.min(1.06, share(v))) * (SCALE.low - SCALE.high);
	const beyond = $derived(value === null ? 0 : share(value) < 0 ? -1 : share(value) > 1 ? 1 : 0);
	const surface = $derived(value === null ? GLASS.bottom : y(value));
	const soft = $derived(value === null ? 0 : Math.max(2, y(value - halfWidth) - surface));
	const tone = $derived(state ? STATES[state].tone : 'moss');
	const path = $derived(
		trail
			.filter((t) => t.daysAgo <= TRAIL.days)
			.map((t) => `${TRAIL.x + TRAIL.width * (1 - t.daysAgo / TRAIL.days)},${y(t.value)}`)
	);
	const ahead = $derived(
		heading.map((h, i) => ({
			x: AHEAD.x + (AHEAD.width * i) / Math.max(1, heading.length - 1),
			mean: y(h.mean),
			high: y(h.mean + h.halfWidth),
			low: y(h.mean - h.halfWidth)
		}))
	);
</script>

<svg viewBox="0 0 94 296" class="h-full flex-none overflow-visible" aria-hidden="true">
	<defs>
		<linearGradient id="edge-{id}" x1="0" x2="0" y1="0" y2="1">
			<stop offset="0" stop-color="var(--liquid)" stop-opacity="0" />
			<stop offset="1" stop-color="var(--liquid)" stop-opacity="0.85" />
		</linearGradient>
		<clipPath id="glass-{id}">
			<path
				d="M{GLASS.x} {GLASS.top} v{GLASS.bottom -
					GLASS.top -
					15} a15 15 0 0 0 {GLASS.width} 0 V{GLASS.top} z"
			/>
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
		<line
			x1={GLASS.x}
			x2={GLASS.x + GLASS.width}
			y1={surface}
			y2={surface}
			stroke="var(--plum)"
			stroke-width="2"
		/>
	{/if}
	{#if beyond !== 0}
		<!-- the level lies outside the glass's scale -->
		<path
			d="M{GLASS.x + 8} {beyond < 0 ? SCALE.low - 16 : SCALE.high + 10} h14 l-7 {beyond < 0 ? 10 : -10} z"
			fill="var(--brick)"
		/>
	{/if}
	<path
		d="M{GLASS.x - 5} {GLASS.top} h{GLASS.width + 10} M{GLASS.x} {GLASS.top} v{GLASS.bottom -
			GLASS.top -
			15} a15 15 0 0 0 {GLASS.width} 0 V{GLASS.top}"
		fill="none"
		stroke="var(--glass)"
		stroke-width="2"
		stroke-linecap="round"
		stroke-dasharray={value === null ? '3 5' : undefined}
		opacity={value === null ? 0.55 : 1}
	/>
	{#if band}
		<path
			d="M{GLASS.x - 4} {y(band.upper)} h-5 V{y(band.lower)} h5"
			fill="none"
			stroke="var(--{tone})"
			stroke-width="2.5"
		/>
		{#each [band.upper, band.lower] as end (end)}
			<text
				x="19.5"
				y={y(end)}
				text-anchor="end"
				dominant-baseline="central"
				font-size="10"
				class="figure"
				fill="var(--faint-ink)"
			>
				{figures(end, 5)}
			</text>
		{/each}
	{/if}
	{#if ahead.length > 1}
		<path
			d="M{ahead.map((a) => `${a.x} ${a.high}`).join('L')}L{[...ahead]
				.reverse()
				.map((a) => `${a.x} ${a.low}`)
				.join('L')}z"
			fill="var(--liquid)"
			opacity="0.3"
		/>
		<polyline
			points={ahead.map((a) => `${a.x},${a.mean}`).join(' ')}
			fill="none"
			stroke="var(--plum)"
			stroke-width="1.6"
			stroke-dasharray="2 2.5"
		/>
	{/if}
	{#if path.length > 1}
		<polyline points={path.join(' ')} fill="none" stroke="var(--plum)" stroke-width="1.4" opacity="0.55" />
		{#each path as at, i (i)}
			<circle
				cx={at.split(',')[0]}
				cy={at.split(',')[1]}
				r={i === path.length - 1 ? 3.4 : 1.8}
				fill="var(--plum)"
			/>
		{/each}
	{/if}
</svg>
