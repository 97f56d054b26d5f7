<script lang="ts">
	/** What one pair of hands does now: waits, reads, or does a step. */
	import { ownParameter } from '$core/catalogue';
	import type { Method } from '$core/instruments';
	import type { Proved, Water } from '$core/methods';
	import type { RunningTest, Turn } from '$core/run';
	import type { Band } from '$core/targets';
	import type { Estimate } from '$core/trend';
	import type { EarlierReading } from '$lib/api/readings';
	import type { PoursView } from '$lib/ui/adjust/plan-view';
	import type { Ticks } from '$lib/ui/adjust/ticks.svelte';
	import { parameterFor } from '$lib/ui/habits';
	import Reader from '$lib/ui/instruments/Reader.svelte';
	import { seenIn } from '$lib/ui/wording';
	import { otherFor, type Result } from './results';
	import type { RunSession } from './run-session';
	import StepCard from './StepCard.svelte';
	import Waiting from './Waiting.svelte';

	interface Props {
		hand: Turn;
		test: RunningTest;
		method: Method;
		methodId: string;
		title: string;
		vial: number | undefined;
		/** What is known of the test's water. */
		water: {
			from: { id: string; kind: string };
			earlier: (parameter: string | undefined) => EarlierReading[];
			band: (parameter: string) => Band | undefined;
			level: (parameter: string) => Estimate | undefined;
		};
		/** What checks have taught of the kit. */
		proved: Proved | undefined;
		/** What goes into the tank while these hands wait. */
		pour: PoursView['steps'][number] | undefined;
		results: Result[];
		session: RunSession;
		ticks: Ticks;
		system: { id: string; timeZone: string };
		at: number;
		now: string;
		/** The plan is of what has happened. */
		planned: boolean;
		draftKey: string;
	}
	let {
		hand,
		test,
		method,
		methodId,
		title,
		vial,
		water,
		proved,
		pour,
		results,
		session,
		ticks,
		system,
		at,
		now,
		planned,
		draftKey
	}: Props = $props();

	const step = $derived(test.steps[hand.step]!);

	/** What is read next is under the fingers: drops under Space, numbers under the keys, but no keyboard over a phone's screen. */
	function ready(section: Element) {
		const drops = section.querySelector<HTMLElement>('.instrument.drops [data-instrument]');
		const typed = section.querySelector<HTMLElement>('[data-entry], input[data-instrument]');
		(drops ?? (matchMedia('(hover: hover)').matches ? typed : undefined))?.focus();
	}
</script>

{#if session.isWaiting(hand, at)}
	<Waiting
		pour={pour && {
			what: pour.what,
			manner: pour.manner,
			ondone: () => ticks.tick(pour.place, pour.what)
		}}
		until={hand.from}
		{at}
		timeZone={system.timeZone}
		{title}
		label={step.label}
		onearly={() => session.say({ kind: 'early', test: hand.test, step: hand.step })}
	/>
{:else if step.reads}
	<section class="reading" aria-label={title} {@attach ready}>
		<p class="mb-2 text-2xl">
			{#if vial !== undefined}<span class="badge">{vial}</span>{/if}
			<strong>{title}</strong>{test.letter ? ` · kit ${test.letter}` : ''}: {step.label}
		</p>
		<Reader
			{method}
			{methodId}
			versionId={test.methodVersionId}
			systemId={system.id}
			sourceId={water.from.id}
			water={water.from.kind as Water}
			hidden={test.hidden}
			parameter={parameterFor(method.parameter) ?? ownParameter(method.parameter, method.unit)}
			band={water.band(method.parameter)}
			earlier={water.earlier(method.parameter)}
			level={water.level(method.parameter)}
			other={otherFor(method, test.sourceId, results, water.earlier(method.takeAway?.parameter)[0])}
			{proved}
			{now}
			timeZone={system.timeZone}
			next={undefined}
			begin={test.thinned && {
				thinnedMl: String(test.thinned.sampleMl),
				withMl: String(test.thinned.waterMl)
			}}
			{draftKey}
			onkeep={(taken, photoName) => session.take(hand, taken, photoName)}
		/>
	</section>
{:else}
	{@const before = water.earlier(method.parameter).find((r) => r.raw && r.methodName === method.name)}
	<StepCard
		{step}
		{method}
		{title}
		{vial}
		letter={test.letter}
		started={hand.started ? hand.from : undefined}
		{at}
		ready={planned}
		last={before && {
			words: seenIn(before),
			reading: before.raw,
			sample: before.sampleSize
		}}
		onpress={() => session.press(hand)}
		onearly={() => session.early(hand)}
	/>
{/if}

<style>
	.reading {
		/* What is typed stands above the foot. */
		--thumb: 3.75rem;
		padding: 0.75rem 1rem;
	}
	.badge {
		display: inline-block;
		min-width: 2rem;
		border: 3px solid var(--glass);
		border-radius: 2px 2px 9px 9px;
		text-align: center;
		font-weight: 700;
	}
</style>
