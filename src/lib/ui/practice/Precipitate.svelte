<script lang="ts">
	/** Potassium before its drops: shake, let it settle, filter, take an exact part. Each step can be cut short, and costs what it costs. */
	import { numberTyped } from '$core/quick';
	import Button from 'flowbite-svelte/Button.svelte';
	import { numeral } from '$lib/ui/habits';
	import Field from '$lib/ui/forms/Field.svelte';
	import { belongsElsewhere } from './keys';
	import { clockFace } from './kits';
	import { PRECIPITATE, precipitated } from './precipitate';

	let { onstop }: { onstop: (share: number, part: number) => void } = $props();
	/** Standing and filtering: a minute is two seconds. Shaking: four seconds are one. */
	const FASTER = 30;
	const SHAKEN_FASTER = 4;
	let step: 'shake' | 'wait' | 'filter' | 'part' = $state('shake');
	let shaken = $state(0);
	let waited = $state(0);
	let filtered = $state(0);
	let shaking = $state(false);
	let part = $state('');
	let problem: string | undefined = $state();
	$effect(() => {
		let last = performance.now();
		const clock = setInterval(() => {
			const seconds = (performance.now() - last) / 1000;
			last = performance.now();
			if (step === 'shake' && shaking) shaken += seconds * SHAKEN_FASTER;
			if (step === 'wait') waited += seconds * FASTER;
			if (step === 'filter') filtered = Math.min(PRECIPITATE.filterSeconds, filtered + seconds * FASTER);
		}, 50);
		return () => clearInterval(clock);
	});
	const filtrate = $derived((10 * filtered) / PRECIPITATE.filterSeconds);
	function take(event: Event) {
		event.preventDefault();
		const ml = numberTyped(part);
		problem = undefined;
		if (!(ml > 0) || ml > 10) return void (problem = 'is a number of mL, at most what there is');
		if (ml > filtrate + 0.005)
			return void (problem = `only ${numeral(filtrate, 1)} mL have run through; go back and wait, or take less`);
		onstop(precipitated(shaken, waited), ml);
	}
	function key(event: KeyboardEvent, on: boolean) {
		if (event.key.toLowerCase() !== 's' || step !== 'shake' || (on && belongsElsewhere(event))) return;
		shaking = on;
	}
</script>

<svelte:window
	onkeydown={(e) => key(e, true)}
	onkeyup={(e) => key(e, false)}
	onblur={() => (shaking = false)}
/>
<div class="grid max-w-xl gap-3">
	{#if step === 'shake'}
		<p>Water, purified water and precipitant are in. The leaflet says: shake 30 seconds.</p>
		<p class="figure text-4xl" role="timer" data-testid="shake">{clockFace(shaken)}</p>
		<div class="flex flex-wrap gap-2">
			<button
				type="button"
				class="min-h-14 rounded-[10px] bg-plum px-6 font-semibold text-on-plum select-none"
				aria-keyshortcuts="S"
				onpointerdown={() => (shaking = true)}
				onpointerup={() => (shaking = false)}
				onpointerleave={() => (shaking = false)}
				onkeydown={(e) => {
					if (e.key === ' ' || e.key === 'Enter') shaking = true;
				}}
				onkeyup={() => (shaking = false)}>Shake (hold)</button
			>
			<Button color="alternative" class="min-h-14" onclick={() => (step = 'wait')}>Shaken enough</Button>
		</div>
	{:else if step === 'wait'}
		<p>
			Let the cloud settle: ten minutes, says the leaflet. <span class="text-faint"
				>A minute passes in two seconds.</span
			>
		</p>
		<p class="figure text-4xl" role="timer" data-testid="settle">{clockFace(waited)}</p>
		<Button class="min-h-14 justify-self-start" onclick={() => (step = 'filter')}
			>Pour it into the filter</Button
		>
	{:else if step === 'filter'}
		<p>It runs through the paper, for a quarter of an hour.</p>
		<p class="figure text-4xl" data-testid="filter">{numeral(filtrate, 1)} mL</p>
		<Button class="min-h-14 justify-self-start" onclick={() => (step = 'part')}>Take a part of it</Button>
	{:else}
		<form onsubmit={take} class="grid gap-2">
			<p>
				How much of the filtrate goes on? The leaflet says exactly 5 mL; {numeral(filtrate, 1)} mL have run through.
			</p>
			<Field
				name="part"
				label="Taken, mL"
				inputmode="decimal"
				value={part}
				oninput={(e) => (part = (e.target as HTMLInputElement).value)}
				{problem}
			/>
			<div class="flex flex-wrap gap-2">
				<Button type="submit" class="min-h-14">Take it</Button>
				<Button color="alternative" class="min-h-14" onclick={() => (step = 'filter')}>Wait for more</Button>
			</div>
		</form>
	{/if}
</div>
