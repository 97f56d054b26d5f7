<script lang="ts">
	/** Nothing to do for a while: how long, and what comes then. */
	import * as say from '$messages/adjust';
	import Button from 'flowbite-svelte/Button.svelte';
	import { clockTime, minutesAndSeconds } from './choices';

	interface Props {
		until: number;
		at: number;
		timeZone: string;
		title: string;
		label: string;
		onearly: () => void;
		/** A good moment to pour something. */
		pour: { what: string; manner: string; ondone: () => void } | undefined;
	}
	let { until, at, timeZone, title, label, onearly, pour }: Props = $props();
</script>

<section aria-label="Waiting">
	<p class="text-lg text-faint">
		{pour ? 'Time to pour, until' : 'Nothing to do until'}
		{clockTime(until, timeZone)}
	</p>
	{#if pour}
		<div class="rounded-xl border-2 border-plum bg-sheet p-4" data-testid="pour-now">
			<p class="text-3xl font-semibold">{pour.what}</p>
			{#if pour.manner}<p class="mt-1 text-faint">{pour.manner}</p>{/if}
			<p class="mt-1 text-faint">{say.slowly()}</p>
			<Button class="mt-3 min-h-14 px-8 text-lg" onclick={pour.ondone}>Poured</Button>
		</div>
	{/if}
	<p class="figure font-semibold {pour ? 'text-5xl' : 'text-8xl'}" data-testid="until">
		{minutesAndSeconds(until - at)}
	</p>
	<p class="text-2xl">then <strong>{title}</strong>: {label}</p>
	<div>
		<Button color="alternative" class="min-h-14" onclick={onearly}
			>Go on now; the reading will carry a mark</Button
		>
	</div>
</section>

<style>
	section {
		display: grid;
		align-content: center;
		justify-items: center;
		gap: 1.25rem;
		text-align: center;
		padding: 1rem;
	}
</style>
