<script lang="ts">
	/**
	 * A comparator under a lamp: the vial's colour grows with time, and is matched to a card (all patches at once), a wheel or a block (one at a time).
	 */
	import Button from 'flowbite-svelte/Button.svelte';
	import { untrack } from 'svelte';
	import type { Light } from '$core/photograph';
	import { grownTo, patchColours, seen, vialColour } from '$core/titration';
	import { PAPER } from '$core/photograph';
	import { nth } from '$core/base';
	import { formatUnit } from '$core/quantities';
	import { figures } from '$lib/ui/habits';
	import { belongsElsewhere, pressesFocused } from './keys';
	import { soundPlaces } from './colour-sound';
	import { CARDS, clockFace, clockSince, placeOfValue, type CardName } from './kits';

	interface Props {
		card: CardName;
		value: number;
		light: Light;
		/** When the last reagent went in, by performance.now(); the clock runs faster than a real one. */
		since: number;
		onstop: (said: [number, number], seconds: number) => void;
	}
	let { card, value, light, since, onstop }: Props = $props();
	const growing = $derived(CARDS[card]);
	const values = $derived(growing.card.values);
	const rgb = (colour: number[]) => `rgb(${colour.join(' ')})`;
	const patches = $derived(patchColours(growing, light).map(rgb));
	const paper = $derived(rgb(seen(PAPER, light)));

	let seconds = $state(untrack(() => clockSince(since)));
	$effect(() => {
		const clock = setInterval(() => (seconds = clockSince(since)), 100);
		return () => clearInterval(clock);
	});
	const vial = $derived(rgb(vialColour(growing, value, seconds, light)));
	/** In halves of a patch: on one, or between two. */
	let at = $state(2);
	const last = $derived(2 * (values.length - 1));
	const low = $derived(Math.floor(at / 2));
	const said = $derived([nth(values, low), nth(values, Math.ceil(at / 2))] as [number, number]);
	const words = $derived(
		at % 2 ? `between ${figures(said[0])} and ${figures(said[1])}` : `like ${figures(said[0])}`
	);
	const turn = (by: number) => (at = Math.max(0, Math.min(last, at + by)));
	const hear = () => soundPlaces([placeOfValue(growing.card, value * grownTo(growing, seconds)), at / 2]);
	function key(event: KeyboardEvent) {
		if (belongsElsewhere(event)) return;
		const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
		if (event.key.toLowerCase() === 'h') hear();
		else if (by) {
			event.preventDefault();
			turn(by);
		} else if (event.key === 'Enter' && !pressesFocused(event)) onstop(said, seconds);
	}
</script>

<svelte:window onkeydown={key} />
<div class="grid max-w-3xl gap-3">
	<p>
		Reagents are in. This kit is read after {growing.dueSeconds / 60} minutes, within {growing.withinSeconds /
			60} more.
		<span class="figure text-xl" role="timer" aria-label="Time since the last reagent"
			>{clockFace(seconds)}</span
		>
		<span class="text-sm text-faint">a minute passes in six seconds</span>
	</p>
	<div class="ground" style:background={paper}>
		<span class="vial" style:background={vial} data-testid="growing"></span>
		{#if growing.form === 'card'}
			<div class="patches">
				{#each values as v, i (v)}
					<button
						type="button"
						class:chosen={i === at / 2 || i === (at - 1) / 2 || i === (at + 1) / 2}
						style:background={patches[i]}
						aria-label="Like {figures(v)}"
						aria-pressed={at === 2 * i}
						onclick={() => (at = 2 * i)}><span>{figures(v)}</span></button
					>
				{/each}
			</div>
		{:else}
			<span class="window" class:round={growing.form === 'wheel'} style:background={patches[low]}></span>
			{#if at % 2}<span
					class="window"
					class:round={growing.form === 'wheel'}
					style:background={patches[low + 1]}
				></span>{/if}
		{/if}
	</div>
	<p class="text-lg font-semibold" aria-live="polite">{words} {formatUnit(growing.unit)}</p>
	<div class="flex flex-wrap gap-2">
		<Button color="alternative" class="min-h-14" aria-keyshortcuts="ArrowLeft" onclick={() => turn(-1)}>
			{growing.form === 'card' ? 'Paler' : growing.form === 'wheel' ? 'Turn back' : 'Slide back'}
		</Button>
		<Button color="alternative" class="min-h-14" aria-keyshortcuts="ArrowRight" onclick={() => turn(1)}>
			{growing.form === 'card' ? 'Deeper' : growing.form === 'wheel' ? 'Turn on' : 'Slide on'}
		</Button>
		<Button color="alternative" class="min-h-14" aria-keyshortcuts="H" onclick={hear}
			>Hear the vial, then the {growing.form === 'card' ? 'card' : growing.form}</Button
		>
		<Button class="min-h-14" aria-keyshortcuts="Enter" onclick={() => onstop(said, seconds)}
			>That is it</Button
		>
	</div>
</div>

<style>
	.ground {
		display: flex;
		flex-wrap: wrap;
		align-items: stretch;
		gap: 0.75rem;
		padding: 1rem;
		border-radius: 14px;
	}
	.vial {
		width: 7rem;
		height: 9rem;
		border: 2px solid rgb(0 0 0 / 0.4);
		border-radius: 6px 6px 24px 24px;
	}
	.patches {
		display: grid;
		flex: 1;
		grid-template-columns: repeat(auto-fit, minmax(3.2rem, 1fr));
		gap: 4px;
	}
	.patches button {
		display: flex;
		min-height: 4.5rem;
		align-items: end;
		justify-content: center;
		border: 2px solid transparent;
		border-radius: 6px;
	}
	.patches button.chosen {
		border-color: #2d2620;
	}
	.patches span {
		padding: 0 0.4rem;
		margin-bottom: 4px;
		border-radius: 4px;
		background: #fdfaf4;
		color: #2d2620;
		font-size: 0.9rem;
	}
	.window {
		width: 7rem;
		height: 9rem;
		border-radius: 6px;
	}
	.window.round {
		height: 7rem;
		border-radius: 50%;
	}
</style>
