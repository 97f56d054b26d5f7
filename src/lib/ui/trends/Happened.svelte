<script lang="ts">
	/** What was done to a parameter, newest first, with the level a week before and a week after. */
	import { DAY } from '$core/base';
	import { voiding } from '$lib/client/commands';
	import type { TankEvent } from '$lib/api/events';
	import type { WayPoint } from '$lib/api/trends';
	import { post } from '$lib/ui/outbox.svelte';
	import { dateAndTime } from '$lib/ui/when';
	import { figures } from '$lib/ui/habits';
	import { eventInWords } from './event-words';

	interface Props {
		events: TankEvent[];
		way: WayPoint[];
		parameter: string;
		timeZone: string;
	}
	let { events, way, parameter, timeZone }: Props = $props();

	const WEEK = 7 * DAY;
	/** As many as anyone looks back on. */
	const MOST = 30;
	const level = (at: number) => {
		const there = way.find((p) => p.at >= at) ?? way.at(-1);
		return there ? figures(there.mean) : '–';
	};
	const concerns = ({ event }: TankEvent) => !('parameter' in event) || event.parameter === parameter;
	const all = $derived(events.filter(concerns));
	const changes = $derived(
		all
			.slice(-MOST)
			.reverse()
			.map(({ id, at, event }) => ({
				id,
				at,
				words: eventInWords(event),
				before: level(Date.parse(at) - WEEK),
				after: level(Date.parse(at) + WEEK)
			}))
	);
	function voidEvent(id: string, about: string) {
		post(voiding('events', id, 'voided on the trends page', `voiding ${about}`));
	}
</script>

{#if changes.length}
	<details class="mt-3">
		<summary class="min-h-11 cursor-pointer py-2"
			>What was done, and the week before and after ({all.length})</summary
		>
		<ul class="divide-y text-sm">
			{#each changes as c (c.id)}
				<li class="flex flex-wrap items-center gap-x-4 py-1">
					<span class="text-faint">{dateAndTime(c.at, timeZone)}</span>
					<span>{c.words}</span>
					<span class="figure">{c.before} → {c.after}</span>
					<button
						class="ms-auto min-h-11 px-2 text-brick"
						aria-label="Void {c.words} of {dateAndTime(c.at, timeZone)}"
						onclick={() => voidEvent(c.id, c.words)}>Void</button
					>
				</li>
			{/each}
		</ul>
	</details>
{/if}
