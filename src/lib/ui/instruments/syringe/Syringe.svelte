<script lang="ts">
	/**
	 * A titration syringe, tip down, whose plunger is dragged or nudged. It holds what is left, in mL, read at the
	 * plunger's edge; between two lines it shows both.
	 */
	import { numeral } from '$lib/ui/habits';

	interface Props {
		fillMl: number;
		graduationMl: number;
		left: number | [number, number];
		flipped: boolean;
		readAs: 'left' | 'used';
		label: string;
		spoken: string;
		onmove: (left: number) => void;
	}
	let { fillMl, graduationMl, left, flipped, readAs, label, spoken, onmove }: Props = $props();

	// The drawing, in its own units.
	const WIDTH = 300;
	const HEIGHT = 640;
	const BARREL = { x: 112, width: 62, full: 104, empty: 548 };
	const AIR_GAP = 14;
	const LENS = { x: 0, size: 104, zoom: 2.15, off: 12 };

	const yOf = (ml: number) => BARREL.empty - (ml / fillMl) * (BARREL.empty - BARREL.full);
	const ends = $derived(typeof left === 'number' ? [left, left] : left) as [number, number];
	const edge = $derived((ends[0] + ends[1]) / 2);
	const edgeY = $derived(yOf(edge));
	const liquidTop = $derived(Math.min(edgeY + AIR_GAP, BARREL.empty));

	const lines = $derived(
		Array.from({ length: Math.round(fillMl / graduationMl) + 1 }, (_, i) => {
			const ml = i * graduationMl;
			const of10 = i % 10 === 0;
			return { y: yOf(ml), length: of10 ? 24 : i % 5 === 0 ? 17 : 10, text: of10 ? numeral(ml, 1) : '' };
		})
	);

	let drawing: SVGSVGElement;
	let grab: number | undefined;

	/** Dragging stops at lines and halfway between them; the typed field takes anything. */
	function snap(ml: number): number {
		const half = graduationMl / 2;
		const snapped = Math.round(ml / half) * half;
		return Number(Math.max(0, Math.min(fillMl, snapped)).toFixed(4));
	}

	function pointerY(event: PointerEvent): number {
		const box = drawing.getBoundingClientRect();
		return ((event.clientY - box.top) / box.height) * HEIGHT;
	}
	const mlAt = (y: number) => ((BARREL.empty - y) / (BARREL.empty - BARREL.full)) * fillMl;

	function press(event: PointerEvent) {
		const y = pointerY(event);
		// On the plunger it is picked up where it is held; on the scale it comes to the finger.
		grab = y < edgeY + 20 && y > edgeY - 90 ? y - edgeY : 0;
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		drawing.focus({ preventScroll: true });
		onmove(snap(mlAt(y - grab)));
	}
	function drag(event: PointerEvent) {
		if (grab !== undefined) onmove(snap(mlAt(pointerY(event) - grab)));
	}

	function key(event: KeyboardEvent) {
		const by = event.shiftKey || event.key.startsWith('Page') ? 10 : 1;
		const up = ['ArrowUp', 'ArrowRight', 'PageUp'].includes(event.key);
		const down = ['ArrowDown', 'ArrowLeft', 'PageDown'].includes(event.key);
		if (up || down) {
			const line = Math.round(edge / graduationMl) + (up ? by : -by);
			onmove(snap(line * graduationMl));
		} else if (event.key === 'Home') onmove(0);
		else if (event.key === 'End') onmove(fillMl);
		else return;
		event.preventDefault();
	}
</script>

{#snippet scale()}
	{#each lines as line (line.y)}
		<line
			x1={BARREL.x + BARREL.width}
			x2={BARREL.x + BARREL.width - line.length}
			y1={line.y}
			y2={line.y}
			stroke="var(--ink)"
			stroke-width={line.text ? 1.6 : 0.9}
		/>
		{#if line.text}
			<text
				x={BARREL.x + BARREL.width + 20}
				y={line.y}
				text-anchor="middle"
				dominant-baseline="central"
				class="figure"
				font-size="15"
				fill="var(--ink)"
				transform={flipped ? `rotate(180 ${BARREL.x + BARREL.width + 20} ${line.y})` : undefined}
			>
				{line.text}
			</text>
		{/if}
	{/each}
{/snippet}

{#snippet inside()}
	<!-- liquid, and the air between it and the plunger -->
	<rect
		x={BARREL.x + 2}
		width={BARREL.width - 4}
		y={liquidTop}
		height={BARREL.empty - liquidTop}
		fill="var(--liquid)"
		opacity="0.75"
	/>
	<!-- plunger: rod and seal, whose lower edge is what is read -->
	<rect
		x={BARREL.x + 21}
		width={BARREL.width - 42}
		y={edgeY - 470}
		height="452"
		fill="var(--rule)"
		stroke="var(--glass)"
	/>
	<path
		d="M{BARREL.x + 2} {edgeY} h{BARREL.width - 4} v-22 l-8 -7 h-{BARREL.width - 20} l-8 7 z"
		fill="var(--ink)"
		opacity="0.88"
	/>
	{#if ends[0] !== ends[1]}
		<rect
			x={BARREL.x}
			width={BARREL.width}
			y={yOf(ends[1])}
			height={yOf(ends[0]) - yOf(ends[1])}
			fill="var(--saffron)"
			opacity="0.4"
		/>
	{/if}
	<line
		x1={BARREL.x - 22}
		x2={BARREL.x + BARREL.width}
		y1={edgeY}
		y2={edgeY}
		stroke="var(--plum)"
		stroke-width="1.6"
	/>
{/snippet}

<svg
	bind:this={drawing}
	viewBox="0 0 {WIDTH} {HEIGHT}"
	class="syringe"
	role="slider"
	tabindex="0"
	data-instrument
	aria-label={label}
	aria-orientation="vertical"
	aria-valuemin={0}
	aria-valuemax={fillMl}
	aria-valuenow={Number(edge.toFixed(4))}
	aria-valuetext={spoken}
	onpointerdown={press}
	onpointermove={drag}
	onpointerup={() => (grab = undefined)}
	onpointercancel={() => (grab = undefined)}
	onkeydown={key}
>
	<defs>
		<clipPath id="barrel-clip"
			><rect x={BARREL.x - 30} y="0" width={BARREL.width + 60} height={BARREL.empty} /></clipPath
		>
		<clipPath id="lens-clip"><circle cx={LENS.size / 2} cy={LENS.size / 2} r={LENS.size / 2 - 2} /></clipPath>
	</defs>

	<g clip-path="url(#barrel-clip)">{@render inside()}</g>
	<!-- thumb rest -->
	<rect
		x={BARREL.x + 2}
		y={Math.max(2, edgeY - 478)}
		width={BARREL.width - 4}
		height="9"
		rx="4"
		fill="var(--glass)"
	/>
	<!-- barrel with its flange, shoulder and tip -->
	<path
		d="M{BARREL.x - 20} {BARREL.full - 26} h{BARREL.width + 40} M{BARREL.x} {BARREL.full -
			26} V{BARREL.empty} l22 16 v64 h{BARREL.width - 44} v-64 l22 -16 V{BARREL.full - 26}"
		fill="none"
		stroke="var(--glass)"
		stroke-width="2.2"
		stroke-linejoin="round"
	/>
	{#if edge > 0}
		<path
			d="M{BARREL.x + 2} {BARREL.empty} h{BARREL.width - 4} l-21 16 v62 h-{BARREL.width - 46} v-62 z"
			fill="var(--liquid)"
			opacity="0.75"
		/>
	{/if}
	{@render scale()}

	<!-- what is read, named at the edge -->
	<path d="M{BARREL.x - 8} {edgeY} l-15 -8 v16 z" fill="var(--plum)" />

	<!-- lens on the lines beside the edge -->
	<g transform="translate({LENS.x} {Math.max(4, Math.min(HEIGHT - LENS.size - 4, edgeY - LENS.size / 2))})">
		<circle
			cx={LENS.size / 2}
			cy={LENS.size / 2}
			r={LENS.size / 2 - 1}
			fill="var(--sheet)"
			stroke="var(--plum)"
			stroke-width="2"
		/>
		<g clip-path="url(#lens-clip)">
			<g
				transform="translate({LENS.size / 2} {LENS.size / 2}) scale({LENS.zoom}) translate({-(
					BARREL.x +
					BARREL.width +
					LENS.off
				)} {-edgeY})"
			>
				{@render inside()}
				{@render scale()}
			</g>
		</g>
	</g>
	<text
		x={BARREL.x + BARREL.width + 46}
		y={edgeY}
		dominant-baseline="central"
		font-size="13"
		fill="var(--faint-ink)"
	>
		{readAs === 'left' ? 'read here:' : 'read here,'}
	</text>
	<text
		x={BARREL.x + BARREL.width + 46}
		y={edgeY + 16}
		dominant-baseline="central"
		font-size="13"
		fill="var(--faint-ink)"
	>
		{readAs === 'left' ? 'what is left' : 'count used'}
	</text>
</svg>

<style>
	.syringe {
		display: block;
		height: 100%;
		max-width: 100%;
		touch-action: none;
		cursor: ns-resize;
		user-select: none;
		border-radius: 12px;
	}
</style>
