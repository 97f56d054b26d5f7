<script lang="ts">
	/** What the plan pours today, beside the tests: a wait is a good moment for it. */
	import Button from 'flowbite-svelte/Button.svelte';
	import { takingTickBack, tickingOff } from '$lib/client/commands';
	import { currentTime } from '$lib/ui/clock';
	import { outbox, post } from '$lib/ui/outbox.svelte';
	import Glass from './Glass.svelte';
	import type { PoursView } from './plan-view';

	interface Props extends PoursView {
		now: string;
		system: string;
		/** An evening is under way. */
		running: boolean;
	}
	let { plan, steps, now, system, running }: Props = $props();

	/** Ticked on this page: an evening under way does not load anew. */
	let ticked: Record<number, boolean> = $state({});
	const waiting = (place: number) =>
		outbox.waiting.some((w) => w.path.endsWith(`/plans/${plan}/steps/${place}`) && w.method === 'PUT');
	function tick(place: number, what: string) {
		ticked[place] = true;
		post(tickingOff(plan, place, { at: currentTime(now).toISOString() }, what));
	}
	function untick(place: number, what: string) {
		ticked[place] = false;
		post(takingTickBack(plan, place, `not done after all: ${what}`));
	}
</script>

<section class="mt-6 max-w-2xl rounded-xl border bg-sheet p-3" aria-label="To pour" data-testid="pours">
	<h2>{running ? 'To pour, while a test waits' : 'To pour tonight'}</h2>
	<ul class="mt-1 divide-y">
		{#each steps as step (step.place)}
			<li class="flex items-center gap-3 py-1" data-step={step.place}>
				<Glass fill={0.6} kind={step.kind} />
				<span class="min-w-0 flex-1 leading-snug"
					>{step.what}{#if step.manner}<span class="text-sm text-faint"> · {step.manner}</span>{/if}</span
				>
				{#if ticked[step.place] || waiting(step.place)}
					<span class="text-sm text-moss">✓ done</span>
					<Button
						size="sm"
						color="alternative"
						aria-label="Undo: {step.what}"
						onclick={() => untick(step.place, step.what)}>Undo</Button
					>
				{:else}
					<Button
						size="sm"
						class="min-h-11"
						aria-label="Done: {step.what}"
						onclick={() => tick(step.place, step.what)}>Done</Button
					>
				{/if}
			</li>
		{/each}
	</ul>
	<p class="text-sm text-faint">
		Slowly into good flow, with dry hands near electricity.
		<a class="text-plum underline" href="/s/{system}/adjust">The whole plan</a>
	</p>
</section>
