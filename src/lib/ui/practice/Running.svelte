<script lang="ts">
	/** One lesson, stage by stage, to its truth. Nothing of it reaches a book. */
	import Button from 'flowbite-svelte/Button.svelte';
	import { untrack } from 'svelte';
	import type { Light } from '$core/photograph';
	import { uniform } from '$core/statistics';
	import Fill from './Fill.svelte';
	import { CARDS, KITS, valueAtPlace, type CardName } from './kits';
	import { triesIn, verdictsOf, type Result } from './lesson-session';
	import type { Lesson, Stage } from './lessons';
	import Match from './Match.svelte';
	import Pairs from './Pairs.svelte';
	import Precipitate from './Precipitate.svelte';
	import { PRECIPITATE } from './precipitate';
	import ReadOff from './ReadOff.svelte';
	import Since from './Since.svelte';
	import Titrate from './Titrate.svelte';
	import { addTries } from './tries';
	import Truth from './Truth.svelte';

	interface Props {
		lesson: Lesson;
		light: Light;
		person: string;
		seed: number;
		onagain: () => void;
		onnext: (() => void) | undefined;
		onleave: () => void;
	}
	let { lesson, light, person, seed, onagain, onnext, onleave }: Props = $props();

	const random = untrack(() => uniform(seed));
	let results: Result[] = $state.raw([]);
	let at = $state(0);
	/** When each comparator's last reagent went in, and what its water has. */
	const begun: Partial<Record<CardName, { since: number; value: number }>> = {};
	const stages = $derived(lesson.stages);
	const within = ([low, high]: [number, number]) => low + (high - low) * random();

	interface Now {
		stage: Stage;
		/** By chance, once for each stage. */
		value: number;
		left: number;
	}
	function prepared(place: number): Now | undefined {
		const stage = stages[place];
		if (!stage) return undefined;
		const kit = 'kit' in stage ? KITS[stage.kit] : undefined;
		return {
			stage,
			value: stage.do === 'titrate' ? within(stage.value) : 0,
			left: kit ? kit.fillMl * (0.16 + 0.68 * random()) : 0
		};
	}
	let now: Now | undefined = $state.raw();
	function go(place: number) {
		let next = place;
		for (let stage = stages[next]; stage?.do === 'begin'; stage = stages[++next]) {
			const { values } = CARDS[stage.card].card;
			const i = 1 + Math.floor(random() * (values.length - 2));
			const value = valueAtPlace(CARDS[stage.card].card, i + random());
			begun[stage.card] = { since: performance.now(), value };
		}
		at = next;
		now = prepared(next);
		if (!now) addTries(person, triesIn(results, light));
	}
	untrack(() => go(0));
	function done(result: Result) {
		results = [...results, result];
		go(at + 1);
	}

	const last = $derived(results[results.length - 1]);
	const filled = $derived(last?.do === 'fill' ? last.edge : undefined);
	const precipitate = $derived(results.find((r) => r.do === 'precipitate'));
	const share = $derived(precipitate ? (precipitate.share * precipitate.part) / PRECIPITATE.partMl : 1);
	const before = $derived(last?.do === 'titrate' ? last : undefined);
	const verdicts = $derived(now ? [] : verdictsOf(results));
	let heading: HTMLElement | undefined = $state();
	$effect(() => {
		if (!now) heading?.focus();
	});
</script>

<div class="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
	<h1 class="text-2xl">{lesson.title}</h1>
	{#if now}
		<span class="text-faint">step {at + 1} of {stages.length}</span>
	{/if}
	<button type="button" class="link ml-auto min-h-11" onclick={onleave}>All lessons</button>
</div>

{#if now}
	{@const { stage, value, left } = now}
	{#if stage.do !== 'match'}
		{#each Object.entries(begun) as [card, { since }] (card)}
			<Since card={card as CardName} {since} />
		{/each}
	{/if}
	{#key at}
		{#if stage.do === 'fill'}
			<Fill kit={KITS[stage.kit]} onstop={(edge) => done({ do: 'fill', kit: stage.kit, edge })} />
		{:else if stage.do === 'titrate'}
			{@const kit = KITS[stage.kit]}
			<p class="mb-3 max-w-prose">
				{kit.sampleMl * (stage.half ? 0.5 : 1)} mL of water, indicator in.
				{stage.start ? 'Most of the titrant is in already.' : ''}
				It turns from {kit.turns[0]} to {kit.turns[1]}: stop where it looks like the end on the leaflet and
				stays so when swirled.
			</p>
			<Titrate
				{kit}
				start={{
					value,
					seed: seed + at,
					light,
					start: stage.start ?? 0,
					sampleShare: stage.half ? 0.5 : 1,
					startEdge: filled ?? kit.fillMl,
					slant: stage.slant ?? 0,
					share: stage.kit === 'potassiumDrops' ? share : 1
				}}
				phone={stage.phone ?? false}
				onstop={(bench) => done({ do: 'titrate', kit: stage.kit, value, half: stage.half ?? false, bench })}
			/>
		{:else if stage.do === 'read'}
			{@const kit = KITS[stage.kit]}
			{@const edge = stage.by === 'before' ? before?.bench.syringe.edge : left}
			<ReadOff
				{kit}
				{...kit.reads === 'syringe' ? { left: edge ?? left } : {}}
				half={before?.half ?? false}
				refills={(before?.bench.refills ?? 0) > 0}
				onstop={(said, refills) =>
					done({
						do: 'read',
						kit: stage.kit,
						edge: kit.reads === 'syringe' ? (edge ?? left) : undefined,
						said,
						refills
					})}
			/>
		{:else if stage.do === 'pairs'}
			<Pairs
				card={stage.card}
				{light}
				looks={stage.looks}
				{random}
				onstop={(looks) => done({ do: 'pairs', card: stage.card, looks })}
			/>
		{:else if stage.do === 'match'}
			{@const { since, value } = begun[stage.card] ?? { since: 0, value: 0 }}
			<Match
				card={stage.card}
				{value}
				{light}
				{since}
				onstop={(said, seconds) => done({ do: 'match', card: stage.card, value, said, seconds })}
			/>
		{:else if stage.do === 'precipitate'}
			<Precipitate onstop={(share, part) => done({ do: 'precipitate', share, part })} />
		{/if}
	{/key}
{:else}
	<h2 tabindex="-1" class="mb-2 text-xl outline-none" bind:this={heading}>The truth</h2>
	<div class="grid gap-3 lg:grid-cols-2">
		{#each verdicts as verdict, i (i)}
			<Truth {verdict} />
		{/each}
	</div>
	{#each results as r, i (i)}
		{#if r.do === 'pairs'}
			<p class="mt-3">
				{r.looks.filter((l) => l.right).length} of {r.looks.length} pairs were told rightly. What that makes of
				your eye stands under “What your hand is worth”.
			</p>
		{/if}
	{/each}
	<div class="mt-4 flex flex-wrap gap-2">
		<Button class="min-h-14" onclick={onagain}>Again, with another water</Button>
		{#if onnext}
			<Button color="alternative" class="min-h-14" onclick={onnext}>The next lesson</Button>
		{/if}
		<Button color="alternative" class="min-h-14" onclick={onleave}>All lessons</Button>
	</div>
{/if}
