<script lang="ts">
	/** A leaflet's lines as points and the scale through them; lines that do not fit stand as hollow triangles. */
	import { figures } from '$lib/ui/habits';
	import type { ChartResult } from '$core/calibration';

	interface Props {
		points: [number, number][];
		fit: ChartResult;
		fillMl: number;
	}
	let { points, fit, fillMl }: Props = $props();

	const suspects = $derived(new Set(fit.suspects.map((s) => s.index)));
	const span = (values: number[]): [number, number] => [Math.min(...values), Math.max(...values)];
	const xs = $derived(span(points.map((p) => p[0])));
	const ys = $derived(span(points.map((p) => p[1])));
	const px = (x: number) => 44 + (300 * (x - xs[0])) / Math.max(1e-9, xs[1] - xs[0]);
	const py = (y: number) => 150 - (130 * (y - ys[0])) / Math.max(1e-9, ys[1] - ys[0]);
	const line = $derived.by(() => {
		const { scale } = fit;
		if (scale.kind === 'table') return scale.points.map(([x, y]) => `${px(x)},${py(y)}`).join(' ');
		const per = fit.perMl ?? fit.perDrop ?? 0;
		return xs
			.map((x) => `${px(x)},${py(scale.atZero + per * (fit.readAs === 'left' ? fillMl - x : x))}`)
			.join(' ');
	});
</script>

<svg
	viewBox="0 0 360 170"
	class="w-full max-w-md"
	role="img"
	aria-label="The chart’s lines and the scale through them"
>
	<polyline points={line} fill="none" stroke="var(--liquid)" stroke-width="2.5" />
	{#each points as [x, y], i (i)}
		{#if suspects.has(i)}
			<path d="M{px(x) - 6} {py(y) + 5} h12 l-6 -11 z" fill="none" stroke="var(--brick)" stroke-width="2" />
		{:else}
			<circle cx={px(x)} cy={py(y)} r="3.5" fill="var(--plum)" />
		{/if}
	{/each}
	<g font-size="12" fill="var(--faint-ink)" class="figure">
		<text x="44" y="167">{figures(xs[0], 4)}</text>
		<text x="344" y="167" text-anchor="end">{figures(xs[1], 4)}</text>
		<text x="38" y="24" text-anchor="end">{figures(ys[1], 4)}</text>
		<text x="38" y="154" text-anchor="end">{figures(ys[0], 4)}</text>
	</g>
</svg>
