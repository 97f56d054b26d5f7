<script lang="ts">
	/** Each level now, and its way into its band. */
	import { DAY } from '$core/base';
	import { formatUnit } from '$core/quantities';
	import { figures, parameterFor } from '$lib/ui/habits';
	import { dayInWords } from '$lib/ui/when';
	import { STATES, shownLevel } from '$lib/ui/wording';
	import * as say from '$messages/adjust';
	import Path from './Path.svelte';
	import type { LevelView, PlanView } from './plan-view';

	interface Props {
		view: PlanView;
		system: string;
		madeAt: string;
		now: string;
		timeZone: string;
	}
	let { view, system, madeAt, now, timeZone }: Props = $props();

	function homeInWords({ home, state: of, unsure }: LevelView): string {
		const { shape, word } = STATES[of];
		const state = `${shape} ${word()}`;
		if (home === null && unsure) return `${STATES.unknown.shape} ${say.levelUncertain()}`;
		if (home === null) return (of === 'inside' ? say.levelLeaves : say.levelStays)({ state });
		if (home === 0) return state;
		const day = new Date(Date.parse(madeAt) + home * DAY).toISOString();
		return say.levelIn({ state, when: dayInWords(day, now, timeZone) });
	}
</script>

<h2>Levels and where they go</h2>
<ul class="mt-1 divide-y" data-testid="levels">
	{#each view.levels as level (level.parameter)}
		{@const parameter = parameterFor(level.parameter)}
		{@const shown = shownLevel(level.now.value, level.now.error)}
		<li class="py-2">
			<p class="flex items-baseline justify-between gap-2">
				<a
					class="inline-flex min-h-11 min-w-11 items-center font-medium hover:underline"
					href="/s/{system}/trends?of={level.parameter}">{level.title}</a
				>
				<span class="figure"
					>{shown.value}
					<span class="text-sm text-faint">{shown.error} {formatUnit(parameter?.unit ?? '')}</span></span
				>
			</p>
			<p class="text-sm text-faint">
				{homeInWords(level)} · band {figures(level.band.lower, 5)} to {figures(level.band.upper, 5)}
			</p>
			<Path {level} days={view.days} />
		</li>
	{/each}
</ul>
<p class="text-sm text-faint">
	Today on the left, day {view.days} on the right; the ribbon holds 95 %. The green field is your band.
</p>
