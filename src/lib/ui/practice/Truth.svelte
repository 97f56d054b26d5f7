<script lang="ts">
	/** What was said, what is true, and where the difference came from, in the unit of the real thing. */
	import { formatUnit } from '$core/quantities';
	import { figures, unitFor } from '$lib/ui/habits';
	import { changeFor, valueFor } from '$lib/ui/mine';
	import { because, isNothing, nearInWords, signed, misreadingInWords } from '$lib/ui/words/practice';
	import type { Verdict } from './lesson-session';

	let { verdict }: { verdict: Verdict } = $props();
	const of = $derived(verdict.parameter);
	const unit = $derived(unitFor(of));
	const mine = (value: number) => valueFor(of, value);
	const change = (value: number) => changeFor(of, value, verdict.truth);
	const real = $derived(verdict.causes.filter((c) => !isNothing(c.value, verdict.step)));
	const most = $derived(Math.max(verdict.step, ...real.map((c) => Math.abs(c.value))));
	const slip = $derived(misreadingInWords(verdict.slip));
</script>

<article class="rounded-xl border border-rule bg-sheet p-4" data-testid="truth">
	<h3 class="font-semibold">{verdict.title}</h3>
	<p class="mt-1 text-lg">
		You said <strong class="figure">{figures(mine(verdict.said))}</strong>; the water had
		<strong class="figure">{figures(mine(verdict.truth))}</strong>
		{formatUnit(unit)}.
	</p>
	<p class="text-faint">{nearInWords(verdict)}</p>
	{#if slip}
		<p class="mt-2 rounded-lg bg-saffron-wash p-2">▲ {slip}</p>
	{/if}
	{#if real.length}
		<ul class="mt-3 grid gap-2">
			{#each real as cause (cause.by)}
				<li class="grid gap-1">
					<span
						><span class="figure">{signed(change(cause.value), unit)}</span>
						<span class="text-faint">{because(cause.by)}</span></span
					>
					<span class="bar" style:width="{(100 * Math.abs(cause.value)) / most}%" class:more={cause.value > 0}
					></span>
				</li>
			{/each}
		</ul>
	{/if}
	{#if verdict.streamed > 0.2}
		<p class="mt-2 text-sm text-faint">
			It streamed for {figures(verdict.streamed, 2)} s: a stream outruns mixing.
		</p>
	{/if}
</article>

<style>
	.bar {
		height: 8px;
		min-width: 3px;
		border-radius: 4px;
		background: var(--faint-ink);
	}
	.bar.more {
		background: var(--plum);
	}
</style>
