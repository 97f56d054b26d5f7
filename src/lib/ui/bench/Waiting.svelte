<script lang="ts">
	/** Nothing to do for a while: how long, and what comes then. */
	import Button from 'flowbite-svelte/Button.svelte';
	import { clockTime, minutesAndSeconds } from './evening';

	interface Props {
		until: number;
		at: number;
		timeZone: string;
		title: string;
		label: string;
		onearly: () => void;
	}
	let { until, at, timeZone, title, label, onearly }: Props = $props();
</script>

<section aria-label="Waiting">
	<p class="text-lg text-faint">Nothing to do until {clockTime(until, timeZone)}</p>
	<p class="figure text-8xl font-semibold" data-testid="until">{minutesAndSeconds(until - at)}</p>
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
