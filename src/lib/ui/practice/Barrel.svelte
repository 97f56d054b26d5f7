<script lang="ts">
	/**
	 * A part of a syringe, close to the eye: lines, digits (as they are printed, upside down on many), plunger, air and liquid. Where it may be moved
	 * it is a slider; nothing here says where the edge stands.
	 */
	import { numeral } from '$lib/ui/habits';
	import type { PracticeKit } from './kits';

	interface Props {
		kit: PracticeKit;
		/** Left by the plunger's edge, mL. */
		left: number;
		airMl: number;
		/** What part of the scale is seen, mL. */
		span?: [number, number];
		label: string;
		onmove?: (left: number) => void;
	}
	let { kit, left, airMl, span = [0, kit.fillMl], label, onmove }: Props = $props();

	const WIDTH = 260;
	const HEIGHT = 480;
	const [X, W] = [70, 74];
	/** What stays above and below the part of the scale that is seen. */
	const MARGIN = 30;
	const yOf = (ml: number) =>
		HEIGHT - MARGIN - ((ml - span[0]) / (span[1] - span[0])) * (HEIGHT - 2 * MARGIN);
	const lines = $derived(
		Array.from({ length: Math.round((span[1] - span[0]) / kit.graduationMl) + 1 }, (_, i) => {
			const line = Math.round(span[0] / kit.graduationMl) + i;
			return { ml: line * kit.graduationMl, ten: line % 10 === 0, five: line % 5 === 0 };
		})
	);
	let drawing: SVGSVGElement | undefined = $state();
	let grab: { y: number; left: number } | undefined;
	const mlFor = (pixels: number) =>
		(pixels / (drawing?.getBoundingClientRect().height || 1)) *
		(HEIGHT / (HEIGHT - 2 * MARGIN)) *
		(span[1] - span[0]);
	const clamped = (ml: number) => Math.max(0, Math.min(1.06 * kit.fillMl, ml));

	function down(event: PointerEvent) {
		if (!onmove) return;
		drawing?.setPointerCapture(event.pointerId);
		grab = { y: event.clientY, left };
	}
	function move(event: PointerEvent) {
		if (grab) onmove?.(clamped(grab.left - mlFor(event.clientY - grab.y)));
	}
	/** A fifth of a line a key: what a finger can do. */
	const KEY = 0.2;
	function key(event: KeyboardEvent) {
		const by: Record<string, number> = { ArrowUp: KEY, ArrowDown: -KEY, PageUp: 5, PageDown: -5 };
		const lines = by[event.key];
		if (!onmove || lines === undefined) return;
		event.preventDefault();
		onmove(clamped(left + lines * kit.graduationMl));
	}
	/** For ears: lines from the nearest numbered one, as an eye would count them, to a half. */
	const spoken = $derived.by(() => {
		const tenth = 10 * kit.graduationMl;
		const near = Math.round(left / tenth) * tenth;
		const lines = Math.round(((left - near) / kit.graduationMl) * 2) / 2;
		return `${Math.abs(lines)} lines ${lines < 0 ? 'below' : 'above'} ${numeral(near, 1)}`;
	});
	const clip = $props.id();
</script>

{#snippet picture()}
	<defs><clipPath id={clip}><rect x="0" y="0" width={WIDTH} height={HEIGHT} rx="14" /></clipPath></defs>
	<g clip-path="url(#{clip})">
		<rect width={WIDTH} height={HEIGHT} fill="var(--sheet)" />
		<rect x={X + 2} width={W - 4} y={yOf(left - airMl)} height={HEIGHT} fill="var(--liquid)" opacity="0.45" />
		<path
			d="M{X + 2} {yOf(left - airMl)} q{(W - 4) / 2} 7 {W - 4} 0"
			fill="none"
			stroke="var(--glass)"
			stroke-width="1.5"
		/>
		<rect
			x={X + 24}
			width={W - 48}
			y="-10"
			height={Math.max(0, yOf(left) - 20)}
			fill="var(--rule)"
			stroke="var(--glass)"
		/>
		<path
			d="M{X + 2} {yOf(left)} h{W - 4} v-24 l-10 -9 h-{W - 24} l-10 9 z"
			fill="var(--ink)"
			opacity="0.88"
		/>
		<path d="M{X} -5 V{HEIGHT + 5} M{X + W} -5 V{HEIGHT + 5}" stroke="var(--glass)" stroke-width="2.5" />
		{#each lines as line (line.ml)}
			<line
				x1={X + W}
				x2={X + W - (line.ten ? 32 : line.five ? 22 : 14)}
				y1={yOf(line.ml)}
				y2={yOf(line.ml)}
				stroke="var(--ink)"
				stroke-width={line.ten ? 1.8 : 1}
			/>
			{#if line.ten}
				<text
					x={X + W + 28}
					y={yOf(line.ml)}
					text-anchor="middle"
					dominant-baseline="central"
					class="figure"
					font-size="19"
					fill="var(--ink)"
					transform={kit.flipped ? `rotate(180 ${X + W + 28} ${yOf(line.ml)})` : undefined}
					>{numeral(line.ml, 1)}</text
				>
			{/if}
		{/each}
	</g>
{/snippet}

{#if onmove}
	<svg
		bind:this={drawing}
		viewBox="0 0 {WIDTH} {HEIGHT}"
		class="barrel moves"
		role="slider"
		tabindex="0"
		aria-label={label}
		aria-orientation="vertical"
		aria-valuemin={0}
		aria-valuemax={kit.fillMl}
		aria-valuenow={Number(left.toFixed(4))}
		aria-valuetext={spoken}
		onpointerdown={down}
		onpointermove={move}
		onpointerup={() => (grab = undefined)}
		onpointercancel={() => (grab = undefined)}
		onkeydown={key}>{@render picture()}</svg
	>
{:else}
	<svg viewBox="0 0 {WIDTH} {HEIGHT}" class="barrel" role="img" aria-label="{label}: the edge stands {spoken}"
		>{@render picture()}</svg
	>
{/if}

<style>
	.barrel {
		display: block;
		width: min(100%, calc(44vh * 260 / 480));
		margin: 0 auto;
		border: 1px solid var(--rule);
		border-radius: 14px;
		user-select: none;
	}
	@media (min-width: 768px) {
		.barrel {
			width: min(100%, calc(70vh * 260 / 480));
			margin: 0;
		}
	}
	.moves {
		cursor: ns-resize;
		touch-action: none;
	}
</style>
