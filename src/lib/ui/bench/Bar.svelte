<script lang="ts" module>
	/** How a session makes itself heard, and whether it listens for knocks. */
	export interface Hearing {
		sound: boolean;
		voice: boolean;
		knocks: boolean;
	}
</script>

<script lang="ts">
	/** The top of a session: every clock, the time, what is heard, and the way to change the session. */
	import type { Clock } from '$core/run';
	import Clocks from './Clocks.svelte';
	import { clockTime } from './choices';
	import { mayHearKnocks } from './signals';

	interface Props {
		clocks: Clock[];
		titles: Record<string, string>;
		vials: Record<string, number | undefined>;
		at: number;
		timeZone: string;
		/** What being late does to a test's reading. */
		lateness: (test: string) => string;
		hearing: Hearing;
		canKnock: boolean;
		changing: boolean;
		onhearing: (part: Partial<Hearing>) => void;
		onchange: () => void;
	}
	let {
		clocks,
		titles,
		vials,
		at,
		timeZone,
		lateness,
		hearing,
		canKnock,
		changing,
		onhearing,
		onchange
	}: Props = $props();
</script>

<header class="bar">
	<Clocks {clocks} {titles} {vials} {at} {lateness} />
	<div class="ms-auto flex flex-wrap items-center justify-end gap-1 text-sm text-faint">
		<span class="figure text-xl text-ink" data-testid="clock">{clockTime(at, timeZone)}</span>
		<button class="quiet" aria-pressed={hearing.sound} onclick={() => onhearing({ sound: !hearing.sound })}
			>{hearing.sound ? 'Tones on' : 'Tones off'}</button
		>
		<button class="quiet" aria-pressed={hearing.voice} onclick={() => onhearing({ voice: !hearing.voice })}
			>{hearing.voice ? 'Voice on' : 'Voice off'}</button
		>
		{#if canKnock}
			<button
				class="quiet"
				aria-pressed={hearing.knocks}
				onclick={async () => onhearing({ knocks: !hearing.knocks && (await mayHearKnocks()) })}
				title="Two knocks on the table are a press">{hearing.knocks ? 'Knocks on' : 'Knocks off'}</button
			>
		{/if}
		<button class="quiet" aria-expanded={changing} aria-controls="change" onclick={onchange}>Change</button>
	</div>
</header>

<style>
	.bar {
		display: flex;
		flex-wrap: wrap;
		gap: 0.75rem;
		align-items: start;
		padding: 0.5rem 0.75rem;
		border-bottom: 1px solid var(--rule);
	}
	.quiet {
		min-height: 2.75rem;
		padding-inline: 0.5rem;
		border-radius: 0.5rem;
	}
	.quiet:hover {
		background: var(--plum-wash);
		color: var(--ink);
	}
</style>
