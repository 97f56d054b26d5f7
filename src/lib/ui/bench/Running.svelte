<script lang="ts">
	/** Runs a session: the step at hand in large words, the next one small, every clock; nothing else. */
	import { MINUTE } from '$core/base';
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import { isOver, pourTimes, type Rest, type RunEvent, type RunTest, type Turn } from '$core/run';
	import type { Method } from '$core/instruments';
	import type { Proved } from '$core/methods';
	import Pours from '$lib/ui/adjust/Pours.svelte';
	import type { PoursView } from '$lib/ui/adjust/plan-view';
	import type { Ticks } from '$lib/ui/adjust/ticks.svelte';
	import type { Band } from '$core/targets';
	import type { Estimate } from '$core/trend';
	import type { Pack } from '$lib/api/methods';
	import type { EarlierReading } from '$lib/api/readings';
	import type { KnownEvent, RunRecord } from '$lib/api/runs';
	import { keepPage } from '$lib/client/kept-page';
	import { currentTime } from '$lib/ui/clock';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { post, unsend } from '$lib/ui/outbox.svelte';
	import Bar, { type Hearing } from './Bar.svelte';
	import Change from './Change.svelte';
	import StepAtHand from './StepAtHand.svelte';
	import { clockTime, type Choice } from './choices';
	import Overflowing from './Overflowing.svelte';
	import { openPlanner, type Planner } from '$lib/client/planner';
	import Results from './Results.svelte';
	import { effectOf, type Result } from './results';
	import { keptRun, openRunLog, type RunLog } from './run-log.svelte';
	import { openRunSession, runView, testOf } from './run-session';
	import { hearKnocks, sound, speak, stayAwake } from './signals';

	interface Props {
		id: string;
		known: { record: RunRecord; events: KnownEvent[]; methods: Record<string, Method> } | undefined;
		system: { id: string; name: string; timeZone: string };
		sources: { id: string; kind: string; name: string }[];
		methods: Choice[];
		latest: EarlierReading[];
		bands: Record<string, Band>;
		/** The level of each parameter now, as estimated. */
		levels: Record<string, Estimate>;
		packs: Pack[];
		/** What checks have taught of kits, by their ids. */
		proved: Record<string, Proved>;
		/** What is to be poured into the tank today. */
		pours: PoursView['steps'];
		ticks: Ticks;
		now: string;
	}
	let {
		id,
		known,
		system,
		sources,
		methods,
		latest,
		bands,
		levels,
		packs,
		proved,
		pours,
		ticks,
		now
	}: Props = $props();

	let log: RunLog | undefined = $state.raw();
	let planner: Planner | undefined;
	let planned: { of: unknown; rest: Rest | undefined } | undefined = $state.raw();
	// svelte-ignore state_referenced_locally
	let at = $state(Date.parse(now));
	let missing = $state(false);
	// svelte-ignore state_referenced_locally
	let kept = $state.raw(known ? { sourceId: known.record.sourceId, methods: known.methods } : undefined);
	let hearing: Hearing = $state({ sound: true, voice: true, knocks: false });
	let canKnock = $state(false);
	/** The whole list of tests, to change the session. */
	let changing = $state(false);
	let closing = $state(false);

	const events: RunEvent[] = $derived(log?.events ?? known?.events.map((k) => k.event) ?? []);
	/** Where the chart of a test's kit is typed; an older version of a kit, or somebody else's, is found on the shelf. */
	const chartOf = (versionId: string) => `/s/${system.id}/shelf/${methodIdOf(versionId)}`;
	const methodOf = (versionId: string): Method | undefined =>
		kept?.methods[versionId] ?? methods.find((m) => m.versionId === versionId)?.profile;
	const methodIdOf = (versionId: string) => methods.find((m) => m.versionId === versionId)?.id ?? '';
	const view = $derived(
		runView(
			events,
			planned,
			closing,
			methodOf,
			latest,
			(versionId) => proved[methodIdOf(versionId)],
			(sourceId) => sources.find((s) => s.id === sourceId)?.name
		)
	);
	const source = $derived(sources.find((s) => s.id === kept?.sourceId) ?? sources[0]!);
	/** What is known of a test's water: of the tank's own alone, and nothing where its result is hidden. */
	const waterOf = (test: Pick<RunTest, 'sourceId' | 'hidden'>) => {
		const from = sources.find((s) => s.id === test.sourceId) ?? source;
		const known = from.kind === 'tank' && !test.hidden;
		const earlier = (parameter: string | undefined) =>
			known ? latest.filter((r) => r.parameter === parameter && r.sourceId === from.id) : [];
		return {
			from,
			earlier,
			band: (parameter: string) => (known ? bands[parameter] : undefined),
			level: (parameter: string) =>
				known && earlier(parameter).length >= LEAST ? levels[parameter] : undefined
		};
	};
	/** A forecast needs a few tests to rest on. */
	const LEAST = 4;

	// svelte-ignore state_referenced_locally
	const session = openRunSession({
		runId: id,
		sourceId: () => source.id,
		view: () => view,
		methodOf,
		packs: () => packs,
		now: () => (at = currentTime(now).getTime()),
		steady: () => performance.now(),
		say: (happening, when) => log?.say(happening, when),
		sound: (test, times) => hearing.sound && sound(test, times),
		speak: (words) => hearing.voice && speak(words),
		post,
		unsend
	});

	onMount(() => {
		const here = keptRun(id);
		const first =
			here ??
			(known
				? {
						systemId: known.record.systemId,
						sourceId: known.record.sourceId,
						events: [],
						methods: known.methods
					}
				: undefined);
		if (!first) {
			missing = true;
			return;
		}
		kept = { sourceId: first.sourceId, methods: { ...first.methods, ...known?.methods } };
		log = openRunLog(id, first, known?.events ?? []);
		planner = openPlanner();
		hearing = { ...hearing, ...readDraft<Hearing>('hearing'), knocks: false };
		canKnock = typeof DeviceMotionEvent !== 'undefined' && 'ontouchstart' in window;
		const rested = stayAwake();
		const left = new AbortController();
		void keepPage(location.href, left.signal);
		const turn = () => {
			const before = at;
			at = currentTime(now).getTime();
			session.turn(before, at);
		};
		const timer = setInterval(turn, 200);
		turn();
		return () => {
			left.abort();
			log?.close();
			planner?.close();
			rested();
			clearInterval(timer);
		};
	});

	$effect(() => {
		const of = events;
		if (!view.run || !planner || view.over) return;
		planner.rest(view.run, (answer) => (planned = { of, rest: answer }));
	});
	$effect(() => (hearing.knocks ? hearKnocks(() => session.press()) : undefined));

	const KEYS = [' ', 'Enter', 'PageDown', 'ArrowRight'];
	function key(event: KeyboardEvent) {
		const target = event.target as Element;
		if (event.repeat || !KEYS.includes(event.key) || event.altKey || event.ctrlKey || event.metaKey) return;
		if (target.closest('input, select, textarea, button, a, summary, [data-instrument]')) return;
		event.preventDefault();
		session.press();
	}

	/** When each pour goes in: in a test's wait. What has to stand hours apart from another is not for this session. */
	const times = $derived(
		view.run && !view.over
			? pourTimes(
					view.run,
					planned?.rest,
					at,
					pours.filter((p) => !p.apart && !ticks.isDone(p.place)),
					(test) => (test.sourceId === undefined ? methodOf(test.methodVersionId)?.parameter : undefined)
				)
			: []
	);
	/** A pour that comes this soon is there already, ms. */
	const SOON = 5000;
	/** The pour that fills the wait that all hands are in. */
	const pourNow = (hands: Turn[]) =>
		hands.every((hand) => session.isWaiting(hand, at))
			? pours.find((p) =>
					times.some((t) => t.place === p.place && t.at <= at + SOON && t.waiting !== undefined)
				)
			: undefined;

	async function finish(chosen: Result[], to: 'rack' | 'adjust') {
		session.finish(chosen);
		await goto(`/s/${system.id}/${to}`, { invalidateAll: true });
	}
	function add(method: Choice, thinned?: RunTest['thinned']) {
		closing = false;
		session.add(method, thinned);
	}
	const changeHearing = (part: Partial<Hearing>) => {
		hearing = { ...hearing, ...part };
		keepDraft('hearing', hearing);
	};
</script>

<svelte:window onkeydown={key} />

<div class="running" data-testid="running">
	{#if missing || !view.run}
		<div class="p-6">
			<h1>This evening is not known here</h1>
			<p class="mt-2">It was begun on another device, or has been removed.</p>
			<Button class="mt-4" href="/s/{system.id}/bench">To the bench</Button>
		</div>
	{:else if view.over}
		{@const { run, results, titles } = view}
		{#if !run.finishedAt}<Overflowing {run} {results} {titles} {methods} onadd={add} />{/if}
		<Results
			chartOf={({ test }) => chartOf(test.methodVersionId)}
			{run}
			{results}
			{titles}
			{system}
			waterOf={(test) => waterOf({ ...(test.sourceId === undefined ? {} : { sourceId: test.sourceId }) })}
			ofTank={source.kind === 'tank' && Object.keys(bands).length > 0}
			{now}
			water={source.name}
			onamend={(result, taken) =>
				session.say({
					kind: 'read',
					test: result.test.id,
					step: result.test.done.length - 1,
					taken: { ...taken, readingId: result.taken.readingId }
				})}
			onback={run.tests.some((t) => !isOver(t)) && !run.finishedAt ? () => (closing = false) : undefined}
			onagain={(testId) => {
				closing = false;
				session.say({ kind: 'again', test: testId, spoilt: false });
			}}
			onfinish={finish}
		/>
	{:else}
		{@const { run, moment, results, titles, vials } = view}
		<h1 class="sr-only">An evening at the bench, {source.name}</h1>
		<Bar
			clocks={moment?.clocks ?? []}
			{titles}
			{vials}
			{at}
			timeZone={system.timeZone}
			lateness={(testId) => {
				const late = methodOf(testOf(run, testId).methodVersionId);
				return late ? effectOf(late, 'late') : '';
			}}
			{hearing}
			{canKnock}
			{changing}
			onhearing={changeHearing}
			onchange={() => (changing = !changing)}
		/>
		{#if changing}
			<Change
				{run}
				{moment}
				{titles}
				{vials}
				{at}
				{methods}
				say={session.say}
				onadd={(m) => add(m)}
				onclose={() => (changing = false)}
				onfinish={() => {
					changing = false;
					closing = true;
				}}
			/>
		{:else}
			<Overflowing {run} {results} {titles} {methods} onadd={add} />
			<div
				class="hands"
				class:two={run.people > 1}
				data-turn={view.planned
					? moment?.hands
							.map((h) => `${h.test}/${h.step}/${testOf(run, h.test).attempt}${h.started ? '/started' : ''}`)
							.join(' ')
					: undefined}
			>
				{#each moment?.hands ?? [] as hand (`${hand.test}/${hand.step}/${testOf(run, hand.test).attempt}`)}
					{@const test = testOf(run, hand.test)}
					<StepAtHand
						{hand}
						{test}
						method={methodOf(test.methodVersionId)!}
						methodId={methodIdOf(test.methodVersionId)}
						title={titles[hand.test]!}
						vial={vials[hand.test]}
						water={waterOf(test)}
						proved={proved[methodIdOf(test.methodVersionId)]}
						pour={pourNow(moment?.hands ?? [])}
						{results}
						{session}
						{ticks}
						{system}
						{at}
						{now}
						planned={view.planned}
						draftKey="{id}.{test.id}.{test.attempt}"
					/>
				{:else}
					<p class="self-center text-center text-2xl text-faint">Planning the rest…</p>
				{/each}
			</div>
			<footer class="foot">
				{#if moment?.next}
					{@const next = moment.next}
					<p class="min-w-0 flex-1 truncate" data-testid="next">
						<span class="text-faint"
							>next{next.from > at + MINUTE ? `, ${clockTime(next.from, system.timeZone)}` : ''}</span
						>
						<strong>{titles[next.test]}</strong>: {testOf(run, next.test).steps[next.step]?.label}
					</p>
				{:else}<span class="flex-1"></span>{/if}
				{#if log?.unsent}<span
						class="text-sm text-saffron"
						title="kept on this device until the server has it">◷ {log.unsent} not sent yet</span
					>{/if}
				{#if view.last}<button class="quiet" onclick={session.takeBack}>Take back the last step</button>{/if}
			</footer>
		{/if}
	{/if}
</div>
{#if pours.length && view.run}
	<div class="px-3 pb-6">
		<Pours steps={pours} {ticks} {system} {...view.over ? {} : { running: { times, titles: view.titles } }} />
	</div>
{/if}

<style>
	.running {
		display: flex;
		flex-direction: column;
		min-height: 100dvh;
	}
	.foot {
		display: flex;
		gap: 0.75rem;
		align-items: center;
		position: sticky;
		bottom: 0;
		z-index: 6;
		min-height: 3.75rem;
		padding: 0.5rem 0.75rem;
		border-top: 1px solid var(--rule);
		background: var(--paper);
		font-size: 1.1rem;
	}
	.quiet {
		min-height: 2.75rem;
		padding-inline: 0.5rem;
		border-radius: 0.5rem;
		color: var(--faint-ink);
	}
	.quiet:hover {
		background: var(--plum-wash);
		color: var(--ink);
	}
	.hands {
		flex: 1;
		display: grid;
	}
	.two {
		grid-template-columns: repeat(auto-fit, minmax(20rem, 1fr));
	}
</style>
