<script lang="ts">
	/** What the plan pours today, beside the tests: each in the wait of one of them. */
	import { alwaysInWords } from '$lib/ui/words/adjust';
	import Button from 'flowbite-svelte/Button.svelte';
	import type { PouredAt } from '$core/run';
	import { clockTime } from '$lib/ui/bench/choices';
	import Glass from './Glass.svelte';
	import type { PoursView } from './plan-view';
	import type { Ticks } from './ticks.svelte';

	interface Props extends Pick<PoursView, 'steps'> {
		ticks: Ticks;
		system: { id: string; timeZone: string };
		/** A session is under way: when each goes in, and what its tests are called. */
		running?: { times: PouredAt[]; titles: Record<string, string> };
	}
	let { steps, ticks, system, running }: Props = $props();

	/** "about 20:14, while potassium waits" */
	function timeInWords(place: number): string {
		const its = running?.times.find((t) => t.place === place);
		if (!running || !its) return '';
		const about = `about ${clockTime(its.at, system.timeZone)}`;
		return its.waiting === undefined
			? `${about}, after the last test`
			: `${about}, while ${running.titles[its.waiting]} waits`;
	}
</script>

<section
	class="mx-auto mt-6 w-full max-w-2xl rounded-xl border bg-sheet p-3"
	aria-label="To pour"
	data-testid="pours"
>
	<h2>{running ? 'To pour, while a test waits' : 'To pour tonight'}</h2>
	<ul class="mt-1 divide-y">
		{#each steps as step (step.place)}
			<li class="flex items-center gap-3 py-1" data-step={step.place}>
				<Glass fill={0.6} kind={step.kind} />
				<span class="min-w-0 flex-1 leading-snug"
					>{step.what}{#if step.manner}<span class="text-sm text-faint">{` · ${step.manner}`}</span>{/if}
					{#if timeInWords(step.place) && !ticks.isDone(step.place)}<span class="block text-sm text-faint"
							>{timeInWords(step.place)}</span
						>{/if}</span
				>
				{#if ticks.isDone(step.place)}
					<span class="text-sm text-moss">✓ done</span>
					<Button
						size="sm"
						color="alternative"
						aria-label="Undo: {step.what}"
						onclick={() => ticks.untick(step.place, step.what)}>Undo</Button
					>
				{:else}
					<Button
						size="sm"
						class="min-h-11"
						aria-label="Done: {step.what}"
						onclick={() => ticks.tick(step.place, step.what)}>Done</Button
					>
				{/if}
			</li>
		{/each}
	</ul>
	<p class="text-sm text-faint">
		{alwaysInWords()}
		<a class="text-plum underline" href="/s/{system.id}/adjust">The whole plan</a>
	</p>
</section>
