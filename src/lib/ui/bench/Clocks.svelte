<script lang="ts">
	/** Every clock that runs, by name: how long still, or how late. */
	import type { Clock } from '$core/run';
	import { minutesAndSeconds } from './choices';

	interface Props {
		clocks: Clock[];
		titles: Record<string, string>;
		vials: Record<string, number | undefined>;
		at: number;
		/** What being late does to the reading. */
		lateness: (test: string) => string;
	}
	let { clocks, titles, vials, at, lateness }: Props = $props();

	const stateOf = (c: Clock) =>
		at < c.opens ? 'waiting' : c.closes !== undefined && at > c.closes ? 'late' : 'open';
</script>

<ul class="flex flex-wrap gap-2" aria-label="Clocks" data-testid="clocks">
	{#each clocks as clock (`${clock.test}/${clock.step}`)}
		{@const state = stateOf(clock)}
		<li class="clock {state}">
			<span class="text-sm">
				{#if vials[clock.test] !== undefined}<span class="badge">{vials[clock.test]}</span>{/if}
				{titles[clock.test]}
			</span>
			<span class="figure text-3xl font-semibold" data-clock={state}>
				{#if state === 'waiting'}{minutesAndSeconds(clock.opens - at)}
				{:else if state === 'late'}+{minutesAndSeconds(at - clock.closes!)}
				{:else if clock.closes !== undefined}{minutesAndSeconds(clock.closes - at)}
				{:else}ready{/if}
			</span>
			<span class="text-sm">
				{#if state === 'waiting'}◷ stands
				{:else if state === 'late'}▲ late: {lateness(clock.test)}
				{:else}● now{clock.closes === undefined ? '' : ', until it closes'}{/if}
			</span>
		</li>
	{/each}
</ul>

<style>
	.clock {
		display: grid;
		min-width: 8.5rem;
		border-bottom: 4px solid var(--glass);
		background: var(--sheet);
		padding: 0.35rem 0.75rem;
	}
	.open {
		background: var(--saffron-wash);
		border-color: var(--saffron);
	}
	.late {
		background: var(--brick-wash);
		border-color: var(--brick);
	}
	.badge {
		display: inline-block;
		min-width: 1.4rem;
		border: 2px solid var(--glass);
		border-radius: 2px 2px 7px 7px;
		text-align: center;
		font-weight: 700;
	}
</style>
