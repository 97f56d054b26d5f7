<script lang="ts">
	/** A refractometer's field, a hydrometer's stem or a thermometer: the line is dragged to where it is seen. */
	import { numberTyped } from '$core/quick';
	import { numeral } from '$lib/ui/habits';
	import { formatUnit } from '$core/quantities';
	import type { ScaleLineMethod } from '$core/instruments';
	import type { FaceProps } from '../view';

	let { method, draft, spoken, onchange }: FaceProps<ScaleLineMethod> = $props();

	const TOP = 50;
	const BOTTOM = 450;
	const form = $derived(method.display.form ?? 'refractometer');
	const step = $derived(method.display.graduation ?? 1);
	const range: [number, number] = $derived(method.display.range ?? [0, 100]);
	/** Decimals that write a step without rounding it. */
	const exact = (x: number) =>
		[0, 1, 2, 3, 4, 5, 6].find((d) => Math.abs(x - Number(x.toFixed(d))) < 1e-9) ?? 6;
	const decimals = $derived(exact(step));
	/** A hydrometer rises in heavier water: its numbers grow downwards. */
	const down = $derived(form === 'hydrometer');

	const typed = $derived(numberTyped(draft.text));
	const set = $derived(draft.text.trim() !== '' && typed >= range[0] && typed <= range[1]);
	const at = $derived(set ? typed : (range[0] + range[1]) / 2);
	const share = (value: number) => (value - range[0]) / (range[1] - range[0]);
	const y = (value: number) =>
		down ? TOP + share(value) * (BOTTOM - TOP) : BOTTOM - share(value) * (BOTTOM - TOP);

	const lines = $derived.by(() => {
		const count = Math.round((range[1] - range[0]) / step);
		const each = [1, 2, 5, 10, 20].find((n) => count / n <= 14) ?? 50;
		return Array.from({ length: count + 1 }, (_, i) => {
			const value = range[0] + i * step;
			return { value, labelled: i % each === 0, half: i % Math.max(1, Math.round(each / 2)) === 0 };
		});
	});

	let drawing: SVGSVGElement;
	let dragging = false;
	function put(value: number) {
		const half = step / 2;
		const snapped = Math.max(range[0], Math.min(range[1], Math.round(value / half) * half));
		onchange({ text: numeral(snapped, Math.max(decimals, exact(Number(snapped.toFixed(7))))) });
	}
	function point(event: PointerEvent) {
		const box = drawing.getBoundingClientRect();
		const py = ((event.clientY - box.top) / box.height) * 500;
		const part = down ? (py - TOP) / (BOTTOM - TOP) : (BOTTOM - py) / (BOTTOM - TOP);
		put(range[0] + part * (range[1] - range[0]));
	}
	function key(event: KeyboardEvent) {
		const by = (event.shiftKey || event.key.startsWith('Page') ? 10 : 1) * step;
		const raises = ['ArrowUp', 'ArrowRight', 'PageUp'].includes(event.key);
		if (raises || ['ArrowDown', 'ArrowLeft', 'PageDown'].includes(event.key)) put(at + (raises ? by : -by));
		else if (event.key === 'Home') put(range[0]);
		else if (event.key === 'End') put(range[1]);
		else return;
		event.preventDefault();
	}
</script>

<svg
	bind:this={drawing}
	viewBox={form === 'refractometer' ? '-90 0 480 500' : '0 0 320 500'}
	class="scale"
	role="slider"
	tabindex="0"
	data-instrument
	aria-label="Line on the scale, {formatUnit(method.display.unit)}"
	aria-orientation="vertical"
	aria-valuemin={range[0]}
	aria-valuemax={range[1]}
	aria-valuenow={at === undefined ? undefined : Number(at.toFixed(4))}
	aria-valuetext={set ? `${draft.text}, ${spoken}` : 'not set'}
	onpointerdown={(e) => {
		dragging = true;
		drawing.setPointerCapture(e.pointerId);
		drawing.focus({ preventScroll: true });
		point(e);
	}}
	onpointermove={(e) => dragging && point(e)}
	onpointerup={() => (dragging = false)}
	onpointercancel={() => (dragging = false)}
	onkeydown={key}
>
	<defs><clipPath id="field"><circle cx="150" cy="250" r="232" /></clipPath></defs>
	{#if form === 'refractometer'}
		<g clip-path="url(#field)">
			<rect x="-90" y="0" width="480" height="500" fill="var(--sheet)" />
			<rect x="-90" y="0" width="480" height={y(at)} fill="var(--liquid)" opacity={set ? 0.75 : 0.25} />
		</g>
		<circle cx="150" cy="250" r="232" fill="none" stroke="var(--glass)" stroke-width="3" />
	{:else}
		<rect
			x="118"
			y="14"
			width="64"
			height="472"
			rx="32"
			fill="var(--sheet)"
			stroke="var(--glass)"
			stroke-width="2.5"
		/>
		{#if form === 'thermometer'}
			<circle cx="150" cy="462" r="17" fill="var(--plum)" />
			<rect x="144" y={y(at)} width="12" height={455 - y(at)} fill="var(--plum)" opacity={set ? 1 : 0.3} />
		{:else}
			<rect
				x="30"
				y={y(at)}
				width="240"
				height={500 - y(at)}
				fill="var(--liquid)"
				opacity={set ? 0.5 : 0.2}
			/>
		{/if}
	{/if}
	{#each lines as line (line.value)}
		<line
			x1="150"
			x2={150 + (line.labelled ? 34 : line.half ? 24 : 14)}
			y1={y(line.value)}
			y2={y(line.value)}
			stroke="var(--ink)"
			stroke-width={line.labelled ? 1.6 : 0.9}
		/>
		{#if line.labelled}
			<text
				x="190"
				y={y(line.value)}
				dominant-baseline="central"
				class="figure"
				font-size="15"
				fill="var(--ink)"
			>
				{numeral(line.value, decimals)}
			</text>
		{/if}
	{/each}
	<line
		x1="20"
		x2="300"
		y1={y(at)}
		y2={y(at)}
		stroke="var(--plum)"
		stroke-width="2.5"
		stroke-dasharray={set ? undefined : '6 5'}
	/>
	<path d="M12 {y(at)} l-12 -9 v18 z" transform="translate(8 0)" fill="var(--plum)" />
</svg>

<style>
	.scale {
		display: block;
		height: 100%;
		max-width: 100%;
		touch-action: none;
		cursor: ns-resize;
		user-select: none;
		border-radius: 12px;
	}
</style>
