<script lang="ts">
	/** Runs an evening: the step at hand in large words, the next one small, every clock; nothing else. */
	import { onMount } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import { goto } from '$app/navigation';
	import { seenInWords } from '$core/methods';
	import Button from 'flowbite-svelte/Button.svelte';
	import {
		isOver,
		lastMeant,
		momentOf,
		runOf,
		type Rest,
		type RunEvent,
		type RunTest,
		type Turn
	} from '$core/run';
	import type { Method, Water } from '$core/methods';
	import { PARAMETERS, parameterOf } from '$core/quantities';
	import type { Band } from '$core/targets';
	import type { Estimate } from '$core/trend';
	import { savesReading, savingReading, voiding } from '$lib/client/commands';
	import type { Pack } from '$lib/api/methods';
	import type { EarlierReading, SaveReading } from '$lib/api/readings';
	import type { KnownEvent, RunRecord } from '$lib/api/runs';
	import { keepPage } from '$lib/client/kept-page';
	import { currentTime } from '$lib/ui/clock';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import Reader from '$lib/ui/instruments/Reader.svelte';
	import { post, unsend } from '$lib/ui/outbox.svelte';
	import { inWords } from '$lib/ui/wording';
	import { WARN, alarmsBetween } from './alarms';
	import Bar, { type Hearing } from './Bar.svelte';
	import Change from './Change.svelte';
	import { addedTest, clockTime, needsVial, titlesOf, type Choice } from './evening';
	import Overflowing from './Overflowing.svelte';
	import { openPlanner, type Planner } from '$lib/client/planner';
	import Results from './Results.svelte';
	import { effectOf, letterOf, otherFor, resultsOf, type Result } from './results';
	import { keptRun, openRunLog, type RunLog } from './run-log.svelte';
	import { hearKnocks, sound, speak, stayAwake } from './signals';
	import StepCard from './StepCard.svelte';
	import Waiting from './Waiting.svelte';

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
		now: string;
	}
	let { id, known, system, sources, methods, latest, bands, levels, packs, now }: Props = $props();

	/** A press this soon after the one before is the same press, ms. */
	const SAME_PRESS = 400;
	/** A shake cannot be over this soon after it began: a press then is a slip, ms. */
	const NO_SHAKE = 1500;

	let log: RunLog | undefined = $state.raw();
	let planner: Planner | undefined;
	let rest: { of: unknown; rest: Rest | undefined } | undefined = $state.raw();
	// svelte-ignore state_referenced_locally
	let at = $state(Date.parse(now));
	let missing = $state(false);
	// svelte-ignore state_referenced_locally
	let kept = $state.raw(known ? { sourceId: known.record.sourceId, methods: known.methods } : undefined);
	let hearing: Hearing = $state({ sound: true, voice: true, knocks: false });
	let canKnock = $state(false);
	let lastPress = 0;
	/** The whole list of tests, to change the evening. */
	let changing = $state(false);
	let closing = $state(false);

	const events: RunEvent[] = $derived(log?.events ?? known?.events.map((k) => k.event) ?? []);
	const methodOf = (versionId: string): Method | undefined =>
		kept?.methods[versionId] ?? methods.find((m) => m.versionId === versionId)?.profile;
	const run = $derived(runOf(events, methodOf));
	const moment = $derived(run ? momentOf(run, rest?.rest) : undefined);
	const planned = $derived(rest?.of === events);
	const over = $derived(!!run && (run.tests.every(isOver) || closing || run.finishedAt !== undefined));
	const titles = $derived(
		titlesOf(
			(run?.tests ?? []).map((t) => ({
				id: t.id,
				profile: methodOf(t.methodVersionId)!,
				...(t.thinned ? { thinned: t.thinned } : {})
			}))
		)
	);
	const vials = $derived(
		Object.fromEntries((run?.tests ?? []).map((t) => [t.id, needsVial(t.steps) ? t.vial : undefined]))
	);
	const source = $derived(sources.find((s) => s.id === kept?.sourceId) ?? sources[0]!);
	const results: Result[] = $derived(run ? resultsOf(run, methodOf, latest) : []);
	const ofWater = (parameter: string | undefined) =>
		source.kind === 'tank' ? latest.filter((r) => r.parameter === parameter && r.sourceId === source.id) : [];
	/** A forecast needs a few tests to rest on. */
	const LEAST = 4;
	const levelOf = (parameter: string) =>
		source.kind === 'tank' && ofWater(parameter).length >= LEAST ? levels[parameter] : undefined;
	const testOf = (testId: string) => run!.tests.find((t) => t.id === testId)!;
	const lateness = (testId: string) => effectOf(methodOf(testOf(testId).methodVersionId)!, 'late');

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
		if (!run || !planner || over) return;
		planner.rest(run, (answer) => (rest = { of, rest: answer }));
	});
	$effect(() => (hearing.knocks ? hearKnocks(() => press()) : undefined));

	/** The clock goes on: shakes that are over end, and what has come about is heard. */
	function turn() {
		const before = at;
		at = currentTime(now).getTime();
		if (!run || over) return;
		for (const { test, since } of run.inHand) {
			const running = testOf(test);
			const end = since + (running.steps[running.done.length]?.countdown ?? Infinity) * 1000;
			if (at < end) continue;
			if (hearing.sound) sound(run.tests.indexOf(running), 2);
			log?.say({ kind: 'end', test, step: running.done.length }, new Date(end));
		}
		for (const { clock, kind } of alarmsBetween(before, at, moment?.clocks ?? [])) {
			const title = titles[clock.test];
			const times = { soon: 1, open: 2, closing: 3 }[kind];
			if (hearing.sound)
				sound(
					run.tests.findIndex((t) => t.id === clock.test),
					times
				);
			if (!hearing.voice || kind === 'soon') continue;
			speak(
				kind === 'open'
					? `${title}. ${testOf(clock.test).steps[clock.step]!.label}`
					: `${title} closes in ${WARN / 1000} seconds`
			);
		}
	}

	function say(happening: Parameters<RunLog['say']>[0]) {
		at = currentTime(now).getTime();
		log?.say(happening, new Date(at));
	}
	const isWaiting = (hand: Turn) => !hand.started && hand.from > at + 500;

	/** Space, a tap, a pedal or two knocks: the step at hand is over, or its shake begins. */
	function press(hand: Turn | undefined = moment?.hands[0]) {
		const pressed = performance.now();
		if (pressed - lastPress < SAME_PRESS || !planned || !hand || !run || over) return;
		lastPress = pressed;
		at = currentTime(now).getTime();
		const step = testOf(hand.test).steps[hand.step]!;
		if (isWaiting(hand) || step.reads) return;
		if (step.countdown && !hand.started) say({ kind: 'start', test: hand.test, step: hand.step });
		else if (!step.countdown || at - hand.from > NO_SHAKE)
			say({ kind: 'end', test: hand.test, step: hand.step });
	}
	const KEYS = [' ', 'Enter', 'PageDown', 'ArrowRight'];
	function key(event: KeyboardEvent) {
		const target = event.target as Element;
		if (event.repeat || !KEYS.includes(event.key) || event.altKey || event.ctrlKey || event.metaKey) return;
		if (target.closest('input, select, textarea, button, a, summary, [data-instrument]')) return;
		event.preventDefault();
		press();
	}

	/** What is read next is under the fingers: drops under Space, numbers under the keys, but no keyboard over a phone's screen. */
	function ready(section: Element) {
		const drops = section.querySelector<HTMLElement>('.instrument.drops [data-instrument]');
		const typed = section.querySelector<HTMLElement>('[data-entry], input[data-instrument]');
		(drops ?? (matchMedia('(hover: hover)').matches ? typed : undefined))?.focus();
	}

	/** Instruments of steps that read, one for each pair of hands. */
	function keepReading(hand: Turn, taken: Pick<SaveReading, 'reading' | 'sampleSize' | 'takenAwayId'>) {
		say({ kind: 'read', test: hand.test, step: hand.step, taken: { readingId: uuid(), ...taken } });
		if (run?.save === 'each') {
			const result = results.find((r) => r.test.id === hand.test && !r.earlier);
			if (result) save(result);
		}
	}
	function save(result: Result) {
		const about = `${titles[result.test.id]} ${result.measured ? inWords(result.measured, result.unit) : ''}`;
		post(savingReading(result.taken.readingId, letterOf(id, source.id, result), about));
	}
	async function finish(chosen: Result[]) {
		if (run?.save === 'together') chosen.forEach(save);
		say({ kind: 'finish' });
		await goto(`/s/${system.id}/rack`, { invalidateAll: true });
	}

	function add(method: Choice, thinned?: RunTest['thinned']) {
		closing = false;
		say({ kind: 'add', added: addedTest(run!.tests, methodOf, method, packs, uuid(), thinned) });
	}
	const last = $derived(lastMeant(events));
	/** What was said last was a mistake. A result that was saved as it came is taken back with it. */
	function takeBack() {
		if (!last) return;
		say({ kind: 'undo', of: last.id });
		if (last.kind !== 'read' || run?.save !== 'each') return;
		const { readingId } = last.taken;
		if (!unsend(savesReading(readingId)))
			post(voiding('readings', readingId, 'taken back at the bench', 'taking back a result'));
	}
	const changeHearing = (part: Partial<Hearing>) => {
		hearing = { ...hearing, ...part };
		keepDraft('hearing', hearing);
	};
</script>

<svelte:window onkeydown={key} />

<div class="running" data-testid="running">
	{#if missing || !run}
		<div class="p-6">
			<h1>This evening is not known here</h1>
			<p class="mt-2">It was begun on another device, or has been removed.</p>
			<Button class="mt-4" href="/s/{system.id}/bench">To the bench</Button>
		</div>
	{:else if over}
		{#if !run.finishedAt}<Overflowing {run} {results} {titles} {methods} onadd={add} />{/if}
		<Results
			{run}
			{results}
			{titles}
			{system}
			{ofWater}
			{levelOf}
			bands={source.kind === 'tank' ? bands : {}}
			{now}
			water={source.name}
			onamend={(result, taken) =>
				say({
					kind: 'read',
					test: result.test.id,
					step: result.test.done.length - 1,
					taken: { ...taken, readingId: result.taken.readingId }
				})}
			onback={run.tests.some((t) => !isOver(t)) && !run.finishedAt ? () => (closing = false) : undefined}
			onagain={(testId) => {
				closing = false;
				say({ kind: 'again', test: testId, spoilt: false });
			}}
			onfinish={finish}
		/>
	{:else}
		<h1 class="sr-only">An evening at the bench, {source.name}</h1>
		<Bar
			clocks={moment?.clocks ?? []}
			{titles}
			{vials}
			{at}
			timeZone={system.timeZone}
			{lateness}
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
				{say}
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
				data-turn={planned
					? moment?.hands
							.map((h) => `${h.test}/${h.step}/${testOf(h.test).attempt}${h.started ? '/started' : ''}`)
							.join(' ')
					: undefined}
			>
				{#each moment?.hands ?? [] as hand (`${hand.test}/${hand.step}/${testOf(hand.test).attempt}`)}
					{@const test = testOf(hand.test)}
					{@const method = methodOf(test.methodVersionId)!}
					{@const step = test.steps[hand.step]!}
					{#if isWaiting(hand)}
						<Waiting
							until={hand.from}
							{at}
							timeZone={system.timeZone}
							title={titles[hand.test]!}
							label={step.label}
							onearly={() => say({ kind: 'early', test: hand.test, step: hand.step })}
						/>
					{:else if step.reads}
						<section class="reading" aria-label={titles[hand.test]} {@attach ready}>
							<p class="mb-2 text-2xl">
								{#if vials[hand.test] !== undefined}<span class="badge">{vials[hand.test]}</span>{/if}
								<strong>{titles[hand.test]}</strong>{test.letter ? ` · kit ${test.letter}` : ''}: {step.label}
							</p>
							<Reader
								{method}
								methodId={methods.find((m) => m.versionId === test.methodVersionId)?.id ?? ''}
								versionId={test.methodVersionId}
								systemId={system.id}
								sourceId={source.id}
								water={source.kind as Water}
								parameter={parameterOf(method.parameter) ?? {
									...PARAMETERS[0],
									title: method.parameter,
									unit: method.unit
								}}
								band={source.kind === 'tank' ? bands[method.parameter] : undefined}
								earlier={ofWater(method.parameter)}
								level={levelOf(method.parameter)}
								other={otherFor(method, results, ofWater(method.takeAway?.parameter)[0])}
								{now}
								timeZone={system.timeZone}
								next={undefined}
								begin={test.thinned && {
									thinnedMl: String(test.thinned.sampleMl),
									withMl: String(test.thinned.waterMl)
								}}
								draftKey="{id}.{test.id}.{test.attempt}"
								onkeep={(taken) => keepReading(hand, taken)}
							/>
						</section>
					{:else}
						{@const before = ofWater(method.parameter).find((r) => r.raw && r.methodName === method.name)}
						<StepCard
							{step}
							{method}
							title={titles[hand.test]!}
							vial={vials[hand.test]}
							letter={test.letter}
							started={hand.started ? hand.from : undefined}
							{at}
							ready={planned}
							last={before && { words: seenInWords(before.raw), reading: before.raw }}
							onpress={() => press(hand)}
						/>
					{/if}
				{:else}
					<p class="self-center text-center text-2xl text-faint">Planning the rest…</p>
				{/each}
			</div>
			<footer class="foot">
				{#if moment?.next}
					{@const next = moment.next}
					<p class="min-w-0 flex-1 truncate" data-testid="next">
						<span class="text-faint"
							>next{next.from > at + 60_000 ? `, ${clockTime(next.from, system.timeZone)}` : ''}</span
						>
						<strong>{titles[next.test]}</strong>: {testOf(next.test).steps[next.step]?.label}
					</p>
				{:else}<span class="flex-1"></span>{/if}
				{#if log?.unsent}<span
						class="text-sm text-saffron"
						title="kept on this device until the server has it">◷ {log.unsent} not sent yet</span
					>{/if}
				{#if last}<button class="quiet" onclick={takeBack}>Take back the last step</button>{/if}
			</footer>
		{/if}
	{/if}
</div>

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
		padding: 0.5rem 0.75rem;
		border-top: 1px solid var(--rule);
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
	.reading {
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
