<script lang="ts">
	/** One step in large words with its picture, and the button that ends it: half of the screen takes the tap. */
	import type { RunStep } from '$core/run';
	import { type Method, type RawReading } from '$core/instruments';
	import { slowDownAt } from '$core/methods';
	import { STEPS_OF_TEMPLATE, minutesAndSeconds } from './choices';
	import Button from 'flowbite-svelte/Button.svelte';
	import { numeral } from '$lib/ui/habits';
	import StepPicture from './StepPicture.svelte';

	interface Props {
		step: RunStep;
		method: Method;
		title: string;
		vial: number | undefined;
		letter: string | undefined;
		/** When it was taken up, ms. */
		started: number | undefined;
		at: number;
		ready: boolean;
		/** Where this method turned last in this water. */
		last: { words: string; reading: RawReading; sample: string | null } | undefined;
		onpress: () => void;
		/** A shake ends before its time. */
		onearly: () => void;
	}
	let { step, method, title, vial, letter, started, at, ready, last, onpress, onearly }: Props = $props();

	const counting = $derived(
		step.countdown && started !== undefined ? Math.max(0, started + step.countdown * 1000 - at) : undefined
	);
	const foresight = $derived(
		step.act === 'titrate' && last && step.fast !== undefined
			? slowDownAt(method, last.reading, step.fast, last.sample ?? undefined)
			: undefined
	);
	const button = $derived(
		counting !== undefined ? 'Go on until it sounds' : step.countdown ? `Start ${step.countdown} s` : 'Done'
	);
</script>

<section class="card" aria-label={title}>
	<div class="what">
		<div class="picture">
			<StepPicture act={step.act} {vial} turning={counting !== undefined} />
		</div>
		<div class="words">
			<p class="text-lg text-faint md:text-xl">
				{title}{vial === undefined ? '' : ` · vial ${vial}`}{letter ? ` · kit ${letter}` : ''}
			</p>
			<h2 class="said" data-testid="step">{step.label}</h2>
			{#if counting !== undefined}
				<p class="figure text-7xl font-semibold md:text-9xl" data-testid="countdown" role="timer">
					{minutesAndSeconds(counting)}
				</p>
			{:else if step.countdown}
				<p class="figure text-5xl text-faint">{minutesAndSeconds(step.countdown * 1000)}</p>
			{/if}
			{#if step.act === 'titrate' && last}
				<p class="text-xl md:text-2xl">
					Last time it turned at <strong class="figure">{last.words}</strong>.
					{#if foresight}
						{foresight.fullFirst ? `${foresight.fullFirst} full quickly, then to` : 'Quickly to'}
						<strong class="figure">{numeral(foresight.slowAt, 2)} {foresight.readAs}</strong>, from there drop
						by drop.
					{/if}
				</p>
			{/if}
			{#if step.passing}
				<p class="text-xl md:text-2xl">
					Its colour passes: the first moment of it is the end, whatever it fades to.
				</p>
			{/if}
			{#if step.then?.wait}
				<p class="text-lg text-faint">
					Its clock runs from here: {minutesAndSeconds(step.then.wait * 1000)}{step.then.within
						? `, then ${minutesAndSeconds(step.then.within * 1000)} to look`
						: ''}
				</p>
			{/if}
			{#if step.caution}<p class="caution">▲ {step.caution}</p>{/if}
			{#if method.stepsBy}<p class="text-sm text-faint">○ {STEPS_OF_TEMPLATE}</p>{/if}
		</div>
	</div>
	{#if counting === undefined}
		<button class="press" disabled={!ready} onclick={onpress}>
			<span class="text-3xl font-semibold md:text-4xl">{button}</span>
			<span class="hint">Space, a pedal, or tap anywhere here</span>
		</button>
	{:else}
		<!-- The tap that began it does not end it: that has a button of its own. -->
		<div class="press counting">
			<span class="text-3xl font-semibold md:text-4xl">{button}</span>
			<Button color="alternative" class="min-h-14" onclick={onearly}
				>End it {minutesAndSeconds(counting)} early; the reading will carry a mark</Button
			>
		</div>
	{/if}
</section>

<style>
	.card {
		display: grid;
		grid-template-rows: 1fr minmax(9rem, 30dvh);
	}
	.what {
		display: grid;
		grid-template-columns: minmax(9rem, 18rem) minmax(0, 1fr);
		gap: 1.5rem;
		align-items: center;
		padding: 0.75rem 1.25rem;
	}
	.picture {
		height: min(42dvh, 22rem);
	}
	.words {
		display: grid;
		gap: 0.75rem;
	}
	.said {
		font-size: clamp(1.6rem, 4.4vw, 3.4rem);
		line-height: 1.15;
		font-weight: 600;
		letter-spacing: -0.01em;
	}
	.caution {
		max-width: 42rem;
		border-left: 4px solid var(--saffron);
		background: var(--saffron-wash);
		padding: 0.4rem 0.75rem;
	}
	.press {
		display: grid;
		place-content: center;
		justify-items: center;
		gap: 0.25rem;
		border-top: 4px solid var(--plum);
		background: var(--plum-wash);
		color: var(--plum);
	}
	.counting {
		border-top-color: var(--rule);
		background: none;
		color: var(--ink);
		gap: 1rem;
	}
	button.press:hover {
		background: color-mix(in srgb, var(--plum) 22%, var(--plum-wash));
	}
	.press:focus-visible {
		outline-offset: -8px;
	}
	.hint {
		font-size: 0.95rem;
	}
	@media (max-width: 48rem) {
		.what {
			grid-template-columns: minmax(0, 1fr);
			align-content: center;
			gap: 0.5rem;
			text-align: center;
		}
		.picture {
			height: 9rem;
		}
		.caution {
			text-align: left;
		}
		.card {
			grid-template-rows: 1fr 34dvh;
		}
	}
</style>
