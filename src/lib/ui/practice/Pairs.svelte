<script lang="ts">
	/**
	 * Two vials under a lamp, one a little deeper: which? An adaptive staircase finds the smallest difference this eye tells. By ear: two tones, the
	 * deeper vial the lower one.
	 */
	import Button from 'flowbite-svelte/Button.svelte';
	import { untrack } from 'svelte';
	import { afterLook, nextSteps, noLooks, type Seen } from '$core/practice';
	import type { Light } from '$core/photograph';
	import { vialColour } from '$core/titration';
	import { soundPlaces } from './colour-sound';
	import { belongsElsewhere } from './keys';
	import { CARDS, valueAtPlace, type CardName } from './kits';

	interface Props {
		card: CardName;
		light: Light;
		looks: number;
		random: () => number;
		onstop: (looks: Seen[]) => void;
	}
	let { card, light, looks, random, onstop }: Props = $props();
	const growing = $derived(CARDS[card]);

	let belief = noLooks();
	let answers: Seen[] = $state([]);
	/** Where on the card the paler one stands, and which side is deeper. */
	interface Asked {
		steps: number;
		place: number;
		deeper: 'left' | 'right';
	}
	const ask = (): Asked => ({
		steps: nextSteps(belief),
		place: 1 + 1.2 * random(),
		deeper: random() < 0.5 ? 'left' : 'right'
	});
	let asked = $state(untrack(ask));

	const colour = (side: 'left' | 'right') => {
		return `rgb(${vialColour(growing, valueAtPlace(growing.card, placeOf(side)), growing.dueSeconds, light).join(' ')})`;
	};

	function answer(side: 'left' | 'right') {
		const look = { steps: asked.steps, right: side === asked.deeper };
		answers.push(look);
		belief = afterLook(belief, look);
		if (answers.length >= looks) onstop($state.snapshot(answers));
		else asked = ask();
	}
	function key(event: KeyboardEvent) {
		if (belongsElsewhere(event)) return;
		const side = { ArrowLeft: 'left', ArrowRight: 'right' } as const;
		const chosen = side[event.key as keyof typeof side];
		if (event.key.toLowerCase() === 'h') hear();
		if (!chosen || event.repeat) return;
		event.preventDefault();
		answer(chosen);
	}
	const placeOf = (side: 'left' | 'right') => asked.place + (side === asked.deeper ? asked.steps : 0);
	const hear = () => soundPlaces([placeOf('left'), placeOf('right')]);
</script>

<svelte:window onkeydown={key} />
<div class="grid max-w-2xl gap-3">
	<p>Which vial is deeper? <span class="text-faint">{answers.length + 1} of {looks}; ← or →</span></p>
	<div class="grid grid-cols-2 gap-3" data-testid="pair">
		{#each ['left', 'right'] as const as side (side)}
			<button
				type="button"
				class="vial"
				aria-label={side === 'left' ? 'The left one' : 'The right one'}
				onclick={() => answer(side)}
			>
				<span style:background={colour(side)}></span>
				{side === 'left' ? 'The left one' : 'The right one'}
			</button>
		{/each}
	</div>
	<Button color="alternative" class="min-h-14 justify-self-start" aria-keyshortcuts="H" onclick={hear}>
		Hear them: the deeper one is lower
	</Button>
</div>

<style>
	.vial {
		display: grid;
		gap: 0.5rem;
		padding: 0.5rem;
		border: 1px solid var(--glass);
		border-radius: 14px;
		font-weight: 600;
	}
	.vial span {
		height: min(34vh, 16rem);
		border-radius: 8px;
	}
</style>
