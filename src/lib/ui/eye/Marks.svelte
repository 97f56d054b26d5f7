<script lang="ts">
	/** A picture with marks that are moved by finger, mouse or arrow keys, and a loupe that shows what is under them. */
	import type { Snippet } from 'svelte';
	import type { Spot } from '$core/picture';
	import type { Handle, Outline } from './marking';

	interface Props {
		picture: ImageBitmap;
		handles: Handle[];
		outlines: Outline[];
		onmove: (id: string, to: Spot) => void;
		/** What else is drawn over it, in the picture's own pixels. */
		over?: Snippet<[unit: number]>;
		label: string;
	}
	let { picture, handles, outlines, onmove, over, label }: Props = $props();

	let canvas: HTMLCanvasElement | undefined = $state();
	let loupe: HTMLCanvasElement | undefined = $state();
	let frame: SVGSVGElement | undefined = $state();
	let shownWidth = $state(600);
	/** The handle in hand, by finger or focus. */
	let held: string | undefined = $state();
	let grip: Spot = { x: 0, y: 0 };

	/** Picture pixels a pixel of the screen. */
	const unit = $derived(picture.width / Math.max(shownWidth, 1));
	const inHand = $derived(handles.find((h) => h.id === held));

	$effect(() => {
		if (!canvas) return;
		canvas.width = picture.width;
		canvas.height = picture.height;
		canvas.getContext('2d')!.drawImage(picture, 0, 0);
	});
	const LOUPE = 120;
	const ZOOM = 3;
	$effect(() => {
		if (!loupe || !inHand) return;
		const pen = loupe.getContext('2d')!;
		const side = (LOUPE / ZOOM) * unit;
		pen.clearRect(0, 0, LOUPE, LOUPE);
		pen.drawImage(picture, inHand.at.x - side / 2, inHand.at.y - side / 2, side, side, 0, 0, LOUPE, LOUPE);
	});

	function spotOf(event: PointerEvent): Spot {
		const box = frame!.getBoundingClientRect();
		return {
			x: ((event.clientX - box.left) / box.width) * picture.width,
			y: ((event.clientY - box.top) / box.height) * picture.height
		};
	}
	const within = ({ x, y }: Spot): Spot => ({
		x: Math.max(0, Math.min(picture.width - 1, x)),
		y: Math.max(0, Math.min(picture.height - 1, y))
	});
	function press(event: PointerEvent, handle: Handle) {
		event.preventDefault();
		(event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
		(event.currentTarget as SVGElement).focus({ preventScroll: true });
		held = handle.id;
		const at = spotOf(event);
		grip = { x: handle.at.x - at.x, y: handle.at.y - at.y };
	}
	function drag(event: PointerEvent, handle: Handle) {
		if (held !== handle.id || !(event.currentTarget as SVGElement).hasPointerCapture(event.pointerId)) return;
		const at = spotOf(event);
		onmove(handle.id, within({ x: at.x + grip.x, y: at.y + grip.y }));
	}
	function key(event: KeyboardEvent, handle: Handle) {
		const by = (event.shiftKey ? 10 : 1) * Math.max(1, Math.round(unit));
		const [dx, dy] = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[
			event.key
		] ?? [0, 0];
		if (!dx && !dy) return;
		event.preventDefault();
		event.stopPropagation();
		onmove(handle.id, within({ x: handle.at.x + dx!, y: handle.at.y + dy! }));
	}
	const path = ({ points, open }: Outline) =>
		`M${points.map(({ x, y }) => `${x} ${y}`).join('L')}${open ? '' : 'Z'}`;
</script>

<div class="picture" bind:clientWidth={shownWidth} style:--ratio={picture.width / picture.height}>
	<canvas bind:this={canvas} aria-hidden="true"></canvas>
	<svg bind:this={frame} viewBox="0 0 {picture.width} {picture.height}" role="group" aria-label={label}>
		{#each outlines as outline (outline.id)}
			<path d={path(outline)} class="under" style:stroke-width={5 * unit} />
			<path d={path(outline)} class="edge" style:stroke-width={2 * unit} />
			{#if outline.name}
				<text
					x={outline.points[0]!.x}
					y={outline.points[0]!.y - 6 * unit}
					font-size={14 * unit}
					style:stroke-width={4 * unit}>{outline.name}</text
				>
			{/if}
		{/each}
		{@render over?.(unit)}
		{#each handles as handle (handle.id)}
			<g
				class="handle"
				role="button"
				tabindex="0"
				aria-label="{handle.label}; arrow keys move it"
				data-handle={handle.id}
				onpointerdown={(e) => press(e, handle)}
				onpointermove={(e) => drag(e, handle)}
				onfocus={() => (held = handle.id)}
				onblur={() => (held = undefined)}
				onkeydown={(e) => key(e, handle)}
			>
				<circle cx={handle.at.x} cy={handle.at.y} r={22 * unit} fill="transparent" />
				<circle class="ring" cx={handle.at.x} cy={handle.at.y} r={9 * unit} style:stroke-width={3 * unit} />
			</g>
		{/each}
	</svg>
	{#if inHand}
		<div class="loupe" class:right={inHand.at.x < picture.width / 2} aria-hidden="true">
			<canvas bind:this={loupe} width={LOUPE} height={LOUPE}></canvas>
		</div>
	{/if}
</div>

<style>
	.picture {
		position: relative;
		width: 100%;
		max-width: calc(68vh * var(--ratio));
		aspect-ratio: var(--ratio);
		background: var(--rule);
	}
	.picture > canvas,
	svg {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
	}
	svg {
		touch-action: none;
		overflow: visible;
	}
	.edge {
		fill: none;
		stroke: #fdf6e8;
	}
	.under {
		fill: none;
		stroke: #33211f;
		opacity: 0.7;
	}
	text {
		fill: #33211f;
		stroke: #fdf6e8;
		paint-order: stroke;
		font-weight: 600;
	}
	.handle {
		cursor: grab;
		outline: none;
	}
	.ring {
		fill: #6b2a5b66;
		stroke: #fdf6e8;
	}
	.handle:focus-visible .ring,
	.handle:hover .ring {
		fill: #6b2a5b;
	}
	.loupe {
		position: absolute;
		top: 0.5rem;
		left: 0.5rem;
		border: 3px solid var(--plum);
		border-radius: 50%;
		overflow: hidden;
		background: var(--sheet);
		pointer-events: none;
	}
	.loupe.right {
		left: auto;
		right: 0.5rem;
	}
	.loupe canvas {
		display: block;
	}
	.loupe::before,
	.loupe::after {
		content: '';
		position: absolute;
		background: var(--plum);
		left: 50%;
		top: 35%;
		width: 1px;
		height: 30%;
	}
	.loupe::after {
		left: 35%;
		top: 50%;
		width: 30%;
		height: 1px;
	}
</style>
