<script lang="ts">
	/**
	 * A card, wheel or sliding block: a marker on one patch, between two, below the first or above the last. The screen
	 * never claims to be the match: it records which patch matched. Numbers and order carry it, not hue.
	 */
	import { numberTyped } from '$core/quick';
	import { figures } from '$lib/ui/habits';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import type { ShadesMethod } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import type { FaceProps } from '../view';
	import { betweenPatches, inColumn, printedShades, unitRead } from './draft';

	let { method, draft, spoken, onchange }: FaceProps<ShadesMethod> = $props();

	const shades = $derived(printedShades(method, draft));
	const last = $derived(shades.length - 1);
	const form = $derived(method.form ?? 'card');
	const unit = $derived(unitRead(method, draft));
	/** Nothing is paler than nothing: a card that begins at 0 has no "below". */
	const lowest = $derived(shades[0] === 0 ? 0 : -0.5);

	/** Where the marker stands: 0 on the first patch, 1 on the second, 0.5 between them. */
	const place = $derived(placeOf(draft.text));
	function placeOf(text: string): number | undefined {
		const [numbers, at] = text.split('@');
		const found = /^\s*([<>])?\s*([\d.,]+)(?:\s*-\s*([\d.,]+))?\s*$/.exec(numbers ?? '');
		if (!found) return undefined;
		const number = (word: string | undefined) => numberTyped(word ?? '');
		const index = (word: string | undefined) => shades.indexOf(number(word));
		const first = index(found[2]);
		if (first < 0) {
			const between = found[1] || found[3] ? undefined : betweenPatches(shades, number(found[2]));
			return between && between.low + (draft.placed ? between.share : 0.5);
		}
		if (found[1] === '<') return first - 0.5;
		if (found[1] === '>') return first + 0.5;
		return found[3] && index(found[3]) >= 0 ? first + (at === undefined ? 0.5 : numberTyped(at)) : first;
	}
	function put(at: number) {
		const p = Math.max(lowest, Math.min(last + 0.5, at));
		const low = Math.floor(p);
		const share = p - low;
		const text =
			p < 0
				? `<${shades[0]}`
				: p > last
					? `>${shades[last]}`
					: share === 0
						? String(shades[low])
						: `${shades[low]}-${shades[low + 1]}${draft.placed ? ` @ ${share.toFixed(2)}` : ''}`;
		onchange({ text });
	}

	/** The marker stays on its patch; the number read is the other column's. */
	function recolumn(name: string) {
		const stays = place;
		onchange(inColumn(method, draft, name));
		if (stays !== undefined) queueMicrotask(() => put(stays));
	}

	const STEP = 64;
	let area: HTMLElement;
	let dragging = false;

	/** Near a patch it rests on the patch; else between, where it was put. */
	function settle(raw: number): number {
		const nearest = Math.round(raw);
		if (Math.abs(raw - nearest) < 0.22 || raw < 0 || raw > last)
			return raw < -0.22 ? -0.5 : raw > last + 0.22 ? last + 0.5 : nearest;
		return draft.placed ? Number(raw.toFixed(2)) : Math.floor(raw) + 0.5;
	}
	function point(event: PointerEvent) {
		const box = area.getBoundingClientRect();
		if (form === 'wheel') {
			const angle = Math.atan2(
				event.clientX - box.left - box.width / 2,
				-(event.clientY - box.top - box.height / 2)
			);
			const turn = ((angle + 2 * Math.PI) % (2 * Math.PI)) / (2 * Math.PI);
			put(settle(turn * (shades.length + 1) - 0.5));
		} else {
			const along =
				form === 'block' ? (event.clientX - box.left) / box.width : (event.clientY - box.top) / box.height;
			put(settle(along * (shades.length + 1) - 1));
		}
	}
	function key(event: KeyboardEvent) {
		const fine = event.shiftKey && draft.placed ? 0.1 : 0.5;
		const now = place ?? lowest - fine;
		if (['ArrowDown', 'ArrowRight'].includes(event.key)) put(Number((now + fine).toFixed(2)));
		else if (['ArrowUp', 'ArrowLeft'].includes(event.key)) put(Number((now - fine).toFixed(2)));
		else if (event.key === 'Home') put(lowest);
		else if (event.key === 'End') put(last + 0.5);
		else return;
		event.preventDefault();
	}

	/** Without colours of the keeper's own, patches only deepen. */
	const fill = (i: number) =>
		method.colours?.[i] ?? `color-mix(in srgb, var(--plum) ${8 + (80 * i) / last}%, var(--sheet))`;
	const sayable = $derived(
		place === undefined
			? 'nothing matched yet'
			: place < 0
				? `paler than ${shades[0]}`
				: place > last
					? `darker than ${shades[last]}`
					: Number.isInteger(place)
						? `matches ${shades[place]}`
						: `between ${shades[Math.floor(place)]} and ${shades[Math.floor(place) + 1]}`
	);
	const short = (x: number) => figures(x);
	const spot = (p: number, radius: number) => {
		const angle = ((p + 0.5) / (shades.length + 1)) * 2 * Math.PI;
		return { x: 160 + radius * Math.sin(angle), y: 160 - radius * Math.cos(angle) };
	};
</script>

<div class="w-full">
	<div
		bind:this={area}
		class={form}
		role="slider"
		tabindex="0"
		data-instrument
		aria-label="Matched shade, {formatUnit(unit)}"
		aria-valuemin={lowest}
		aria-valuemax={last + 0.5}
		aria-valuenow={Number((place ?? lowest).toFixed(2))}
		aria-valuetext="{sayable}, {spoken}"
		style:--steps={shades.length + 1}
		style:--step="{STEP}px"
		onpointerdown={(e) => {
			dragging = true;
			area.setPointerCapture(e.pointerId);
			point(e);
		}}
		onpointermove={(e) => dragging && point(e)}
		onpointerup={() => (dragging = false)}
		onpointercancel={() => (dragging = false)}
		onkeydown={key}
	>
		{#if form === 'wheel'}
			<svg viewBox="0 0 320 320" class="w-full max-w-sm" aria-hidden="true">
				<circle cx="160" cy="160" r="156" fill="var(--sheet)" stroke="var(--glass)" stroke-width="2" />
				{#each shades as shade, i (i)}
					{@const at = spot(i, 112)}
					{@const word = spot(i, 66)}
					<circle cx={at.x} cy={at.y} r="27" fill={fill(i)} stroke="var(--glass)" />
					<text
						x={word.x}
						y={word.y}
						text-anchor="middle"
						dominant-baseline="central"
						class="figure"
						font-size="15"
						fill="var(--ink)"
					>
						{short(shade)}
					</text>
				{/each}
				{#if place !== undefined}
					{@const at = spot(place, 112)}
					<circle cx={at.x} cy={at.y} r="33" fill="none" stroke="var(--plum)" stroke-width="5" />
				{/if}
				<circle cx="160" cy="160" r="18" fill="var(--rule)" />
			</svg>
		{:else}
			{#each shades as shade, i (i)}
				<span class="patch" style:--i={i} style:background={fill(i)}></span>
				<span class="number figure" class:read={draft.column === ''} style:--i={i}
					>{short(method.shades[i] ?? shade)}</span
				>
				{#if form === 'card' || form === 'block'}
					{#each method.columns ?? [] as column, c (column.name)}
						<span
							class="number other figure"
							class:read={draft.column === column.name}
							style:--i={i}
							style:--c={c}>{short(column.shades[i] ?? 0)}</span
						>
					{/each}
				{/if}
			{/each}
			{#if place !== undefined}<span class="marker" style:--i={place}></span>{/if}
		{/if}
	</div>
	<p class="mt-2 text-sm" data-testid="matched">
		{sayable[0]!.toUpperCase() + sayable.slice(1)}, in {formatUnit(method.unit)}
	</p>
	{#if method.columns?.length}
		<fieldset class="mt-1">
			<legend class="text-sm text-faint">Which column is read</legend>
			<div class="flex flex-wrap gap-2">
				{#each ['', ...method.columns.map((c) => c.name)] as name (name)}
					<button
						type="button"
						class="min-h-11 rounded-lg border px-3 text-sm aria-pressed:bg-plum-wash aria-pressed:font-semibold aria-pressed:text-plum"
						aria-pressed={draft.column === name}
						onclick={() => recolumn(name)}>{name || `main, ${formatUnit(method.unit)}`}</button
					>
				{/each}
			</div>
		</fieldset>
	{/if}
	<Checkbox
		checked={draft.placed}
		onchange={(e) => onchange({ placed: e.currentTarget.checked, text: draft.text.split('@')[0]!.trim() })}
		>I can tell how far between (otherwise the gap itself is kept)</Checkbox
	>
</div>

<style>
	.card,
	.block {
		position: relative;
		touch-action: none;
		user-select: none;
		cursor: pointer;
		border: 1px solid var(--glass);
		border-radius: 12px;
		background: var(--sheet);
	}
	.card {
		height: min(calc(var(--steps) * var(--step)), 32rem, 46vh + 8rem);
		max-width: 19rem;
		/* All of it beside each other, also where letters are twice as large. */
		--u: min(1rem, 4.6vw);
	}
	.block {
		height: 9.5rem;
		width: 100%;
	}
	.wheel {
		touch-action: none;
		cursor: pointer;
		border-radius: 50%;
		max-width: 24rem;
	}
	/* A patch stands half a step in from either end. */
	.card .patch,
	.card .number,
	.card .marker {
		position: absolute;
		top: calc((var(--i) + 1) / var(--steps) * 100%);
		transform: translateY(-50%);
	}
	.card .patch {
		left: calc(5.2 * var(--u));
		width: calc(5.5 * var(--u));
		height: calc(62% / var(--steps));
		border: 1px solid var(--glass);
		border-radius: 6px;
	}
	.card .number {
		right: calc(100% - 4.8 * var(--u));
		font-size: calc(1.1 * var(--u));
	}
	.card .number.other {
		left: calc((11.5 + var(--c) * 4) * var(--u));
		right: auto;
		color: var(--faint-ink);
		font-size: calc(0.95 * var(--u));
	}
	.card .marker {
		left: calc(4.9 * var(--u));
		width: calc(6.1 * var(--u));
		height: calc(74% / var(--steps));
		border: 4px solid var(--plum);
		border-radius: 9px;
	}
	.number:not(.read) {
		color: var(--faint-ink);
	}
	.number.read {
		font-weight: 700;
	}
	.block .patch,
	.block .number,
	.block .marker {
		position: absolute;
		left: calc((var(--i) + 1) / var(--steps) * 100%);
		transform: translateX(-50%);
	}
	.block .patch {
		top: 1rem;
		height: 4.5rem;
		width: calc(86% / var(--steps));
		border: 1px solid var(--glass);
	}
	.block .number {
		top: 5.9rem;
	}
	.block .number.other {
		top: 7.3rem;
		font-size: 0.85rem;
	}
	.block .marker {
		top: 0.5rem;
		height: 5.5rem;
		width: calc(92% / var(--steps));
		border: 4px solid var(--plum);
		border-radius: 8px;
	}
</style>
