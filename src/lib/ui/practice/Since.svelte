<script lang="ts">
	/** A comparator that stands and grows while hands do something else: its clock, and when it is due. */
	import { CARDS, clockFace, clockSince, type CardName } from './kits';

	let { card, since }: { card: CardName; since: number } = $props();
	const growing = $derived(CARDS[card]);
	let seconds = $state(0);
	$effect(() => {
		const clock = setInterval(() => (seconds = clockSince(since)), 200);
		return () => clearInterval(clock);
	});
	const late = $derived(seconds > growing.dueSeconds + growing.withinSeconds);
	const due = $derived(seconds >= growing.dueSeconds && !late);
</script>

<p class="mb-2 w-fit rounded-lg px-3 py-1 {due ? 'bg-saffron-wash' : 'border border-rule'}" role="timer">
	{due ? '◗ ' : ''}{growing.title}: <span class="figure">{clockFace(seconds)}</span>
	<span class="text-sm text-faint"
		>{due ? 'is due now' : late ? 'is past its time' : `is due at ${clockFace(growing.dueSeconds)}`}</span
	>
</p>
