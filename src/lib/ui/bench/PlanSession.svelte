<script lang="ts">
	/** Plans a session: which water, which tests, in which order, and what that saves. */
	import { HOUR, MINUTE } from '$core/base';
	import { onMount } from 'svelte';
	import { v7 as uuid } from 'uuid';
	import { goto } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { BenchRequest, BenchResult } from '$core/schedule';
	import { stepsOf } from '$core/run';
	import { type Method } from '$core/instruments';
	import { isKnownValue } from '$core/methods';
	import { nameInSentence } from '$core/catalogue';
	import type { DueTest } from '$core/targets';
	import { dueInWords } from '$lib/ui/wording';
	import type { Pack } from '$lib/api/methods';
	import type { EarlierReading } from '$lib/api/readings';
	import type { RunRecord } from '$lib/api/runs';
	import type { ReferenceContent } from '$core/quality';
	import { currentTime } from '$lib/ui/clock';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { clockTime, inMinutes, symbolOf, testsOf, titlesOf, type Choice, needsVial } from './choices';
	import { AT, NTH, WISHED, chosenBy, choiceOf, comparedIn, keyed, listedAtFirst, type Wish } from './wish';
	import AddTest from './AddTest.svelte';
	import ChosenTest from './ChosenTest.svelte';
	import LayOut from './LayOut.svelte';
	import { openRunPlan } from './run-plan.svelte';
	import { beginRun } from './run-log.svelte';
	import Strip from './Strip.svelte';

	interface Water {
		id: string;
		kind: string;
		name: string;
		content: ReferenceContent | null;
	}
	interface Props {
		system: { id: string; name: string; timeZone: string };
		sources: Water[];
		methods: (Choice & { own?: boolean })[];
		latest: EarlierReading[];
		packs: Pack[];
		due: (Omit<DueTest, 'at'> & { at: string })[];
		open: RunRecord | null;
		/** Tests an address asks for, to begin with: see {@link Wish.methods}. */
		asked: string[];
		/** The plan the page came with, and what it is the plan of. */
		planned: { request: BenchRequest; plan: BenchResult } | undefined;
		now: string;
	}
	let { system, sources, methods, latest, packs, due, open, asked, planned, now }: Props = $props();

	/** A list that was begun is for this session: on another day what is due then stands there, ms. */
	const KEPT = 6 * HOUR;
	// The page makes this component anew for another tank.
	// svelte-ignore state_referenced_locally
	const draftName = `evening.${system.id}`;
	// svelte-ignore state_referenced_locally
	let wish: Wish = $state({
		...WISHED,
		methods: listedAtFirst(asked, { methods, sources, latest, due, packs })
	});
	// svelte-ignore state_referenced_locally
	let sourceId = $state(sources[0]!.id);
	// svelte-ignore state_referenced_locally
	const thinking = openRunPlan(planned);
	const plan = $derived(thinking.plan);

	onMount(() => {
		const kept = readDraft<Wish & { at?: number }>(draftName);
		if (kept && currentTime(now).getTime() - (kept.at ?? 0) < KEPT) wish = { ...wish, ...kept };
		if (asked.length) wish = { ...wish, methods: asked, order: [] };
		wish.methods = wish.methods.filter((entry) => choiceOf(entry, { methods, sources }));
		void think();
		return thinking.close;
	});

	const entries = $derived(keyed(wish.methods));
	const chosen = $derived(chosenBy(wish, { methods, sources }));
	const tests = $derived(testsOf(chosen, packs));
	const methodOf = (versionId: string): Method => methods.find((m) => m.versionId === versionId)!.profile;
	const waterName = (id: string | undefined) => sources.find((s) => s.id === id)?.name;
	/** The wanted order names what was chosen; plans name tests, which are made in the same turn. */
	const testOf = (key: string) => tests[chosen.findIndex((c) => c.key === key)];
	const chosenOf = (testId: string) => chosen[tests.findIndex((t) => t.id === testId)]!;
	const order = $derived(wish.order.flatMap((key) => testOf(key)?.id ?? []));
	/** In the order in which they begin, vials numbered so; one that goes on in another's vial keeps that number. */
	const inTurn = $derived.by(() => {
		const first = (id: string) => plan?.steps.find((s) => s.test === id)?.start ?? 0;
		const sorted = [...tests].sort((a, b) => first(a.id) - first(b.id));
		const vialled = (t: (typeof tests)[number]) => needsVial(stepsOf(methodOf(t.methodVersionId), t.thinned));
		const vials = [...new Set(sorted.filter(vialled).map((t) => t.vial))];
		return sorted.map((t) => ({ ...t, vial: Math.max(1, vials.indexOf(t.vial) + 1) }));
	});
	const titles = $derived(
		titlesOf(
			inTurn.map((t) => ({
				id: t.id,
				profile: methodOf(t.methodVersionId),
				water: t.sourceId && waterName(t.sourceId)
			}))
		)
	);
	const saved = $derived(plan ? plan.oneAfterAnother - plan.makespan : 0);
	const startedAt = $derived(Math.ceil(Date.parse(now) / MINUTE) * MINUTE);
	/** What stands in the list a second time; a check is meant to. */
	const twice = $derived(
		entries.flatMap(({ entry, key }) =>
			key.endsWith(`${NTH}1`) && !entry.includes(AT)
				? [{ key, name: choiceOf(entry, { methods, sources })?.choice.profile.name ?? '' }]
				: []
		)
	);
	const isCompared = $derived(comparedIn(wish.methods, { methods, sources }).size > 0);
	const save = $derived(isCompared && wish.hidden ? 'together' : wish.save);
	const bare = $derived(methods.every((m) => isKnownValue(m.profile)));
	const nextDue = $derived(due.find((d) => !d.now));
	const whyOf = ({ why }: (typeof due)[number]) => dueInWords(why, now, system.timeZone);
	function dueSaid(parameter: string) {
		const its = due.find((d) => d.parameter === parameter);
		return its && { now: its.now, why: whyOf(its) };
	}

	async function think() {
		if (!(await thinking.think({ tests, methodOf, people: wish.people, order }))) wish.order = [];
	}
	function change(part: Partial<Wish>) {
		wish = { ...wish, ...part };
		keepDraft(draftName, { ...wish, at: currentTime(now).getTime() });
		void think();
	}
	function add(entry: string) {
		// A check is done twice: one test tells a misreading from nothing.
		const times = entry.includes(AT) && !wish.methods.includes(entry) ? 2 : 1;
		change({ methods: [...wish.methods, ...Array<string>(times).fill(entry)] });
	}
	const without = (key: string) =>
		change({
			methods: entries.filter((k) => k.key !== key).map((k) => k.entry),
			order: wish.order.filter((k) => k !== key)
		});
	function replace(key: string, by: string) {
		const instead = (entry: string) => [by, ...entry.split(AT).slice(1)].join(AT);
		change({ methods: entries.map((k) => (k.key === key ? instead(k.entry) : k.entry)), order: [] });
	}

	/** Puts a test before another, or last. */
	function put(test: string, before: string | undefined) {
		const now = inTurn.map((t) => t.id).filter((id) => id !== test);
		now.splice(before === undefined ? now.length : now.indexOf(before), 0, test);
		change({ order: now.map((id) => chosenOf(id).key) });
	}
	function shift(test: string, by: -1 | 1) {
		const ids = inTurn.map((t) => t.id);
		const to = ids.indexOf(test) + by;
		put(test, by < 0 ? ids[to] : ids[to + 1]);
	}

	function begin() {
		const id = uuid();
		const methodsKept = Object.fromEntries(
			tests.map((t) => [t.methodVersionId, methodOf(t.methodVersionId)])
		);
		beginRun(
			id,
			{ systemId: system.id, sourceId, methods: methodsKept },
			{
				id: uuid(),
				at: currentTime(now).toISOString(),
				kind: 'begin',
				tests: inTurn,
				people: wish.people,
				order: [...order],
				save
			}
		);
		keepDraft(draftName, undefined);
		// Nothing is loaded for it: this works without a network.
		void goto(`?run=${id}`);
	}
</script>

<div class="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
	<h1 class="me-auto">An evening at the bench</h1>
	{#if open}
		<Button href="?run={open.id}" data-sveltekit-reload>
			Go on with the one begun at {clockTime(Date.parse(open.startedAt), system.timeZone)}
		</Button>
	{/if}
	<a class="link" href="/s/{system.id}/bench/one">One reading only</a>
</div>

<div class="session">
	<section class="tests" aria-label="Tests">
		<div class="mb-2 grid grid-cols-2 gap-2 text-sm text-faint">
			<Label>
				Water
				<Select placeholder="" bind:value={sourceId}>
					{#each sources as s (s.id)}
						<option value={s.id}>{s.name}{s.kind === 'tank' ? '' : `, ${s.kind}`}</option>
					{/each}
				</Select>
			</Label>
			<Label>
				Hands
				<Select
					placeholder=""
					value={wish.people}
					onchange={(e) => change({ people: Number(e.currentTarget.value) })}
				>
					<option value={1}>one pair</option>
					<option value={2}>two pairs</option>
				</Select>
			</Label>
		</div>
		<ol class="divide-y border-y">
			{#each inTurn as test, i (chosenOf(test.id).key)}
				{@const { key, choice } = chosenOf(test.id)}
				{@const { id } = choice}
				{@const profile = methodOf(test.methodVersionId)}
				{@const start = plan?.steps.find((s) => s.test === test.id)?.start}
				<ChosenTest
					{id}
					{profile}
					title={titles[test.id]!}
					starts={start === undefined ? undefined : clockTime(startedAt + start * 1000, system.timeZone)}
					due={test.sourceId === undefined
						? dueSaid(profile.parameter)
						: { now: false, why: 'a check of the kit' }}
					choices={methods.filter(
						(m) => m.profile.parameter === profile.parameter && (m.id === id || !wish.methods.includes(m.id))
					)}
					first={i === 0}
					last={i === inTurn.length - 1}
					onleave={() => without(key)}
					onreplace={(by) => replace(key, by)}
					onshift={(by) => shift(test.id, by)}
				/>
			{:else}
				<li class="py-4 text-faint">
					Nothing is due{nextDue ? `; next ${nameInSentence(nextDue.parameter)}, ${whyOf(nextDue)}` : ''}. Add
					the tests you want to do.
				</li>
			{/each}
		</ol>
		<AddTest {methods} {sources} listed={wish.methods} {now} onadd={add} />
		{#each twice as { key, name } (key)}
			<p class="mt-1 flex flex-wrap items-center gap-x-3 text-sm" role="status">
				{name} stands here twice: the same water a second time, to see how far two readings part.
				<button class="link px-2" onclick={() => without(key)}>Once is enough</button>
			</p>
		{/each}
		{#if isCompared}
			<Checkbox
				classes={{ div: 'mt-2 min-h-11' }}
				checked={wish.hidden}
				onchange={(e) => change({ hidden: e.currentTarget.checked })}
				>Hide what they say until all are read: nobody reads towards a number they expect</Checkbox
			>
		{/if}
		<Label class="mt-2">
			Results are saved
			<Select
				placeholder=""
				value={save}
				disabled={save !== wish.save}
				onchange={(e) => change({ save: e.currentTarget.value as Wish['save'] })}
			>
				<option value="together">together at the end, after a look at all of them</option>
				<option value="each">each as it comes</option>
			</Select>
		</Label>
	</section>

	<section class="plan" aria-label="Plan" aria-busy={thinking.working}>
		{#if tests.length}
			<!-- Its room is kept from the first paint: what lies below does not move when the plan comes. -->
			<div class="total grid items-center gap-x-6 gap-y-2 lg:grid-cols-[minmax(0,1fr)_auto]">
				<p data-testid={plan && 'total'}>
					<span class="figure text-4xl font-semibold">{plan ? inMinutes(plan.makespan) : '–'}</span>
					<span class="text-faint"
						>{plan
							? `until ${clockTime(startedAt + plan.makespan * 1000, system.timeZone)}`
							: 'Planning…'}</span
					>
				</p>
				<p class="saving text-sm text-faint">
					{#if !plan}
						&nbsp;
					{:else if saved >= 30}
						<span class="font-medium text-moss">● {inMinutes(saved)} saved</span> against one after another ({inMinutes(
							plan.oneAfterAnother
						)}){plan.proved ? '; it cannot be done faster' : ''}
					{:else}
						as long as one after another: no wait to fill
					{/if}
				</p>
				<Button
					class="min-h-14 px-8 text-lg lg:col-start-2 lg:row-span-2 lg:row-start-1"
					disabled={!plan}
					onclick={begin}>Begin</Button
				>
			</div>
		{/if}
		{#if plan && tests.length}
			<div class="mt-3">
				<Strip
					{plan}
					tests={tests.map((t) => ({
						id: t.id,
						title: titles[t.id]!,
						symbol: symbolOf(methodOf(t.methodVersionId)),
						steps: stepsOf(methodOf(t.methodVersionId), t.thinned)
					}))}
					{startedAt}
					timeZone={system.timeZone}
					onmove={put}
				/>
			</div>
			<p class="mt-2 flex min-h-11 flex-wrap items-center gap-3 text-sm text-faint" role="status">
				{#if thinking.working}
					Looking for a shorter evening…
					<Button size="xs" color="alternative" class="min-h-9" onclick={() => thinking.stop()}
						>Take this one</Button
					>
				{:else if order.length > 1}
					{thinking.price >= 1
						? `▲ Your order costs ${inMinutes(thinking.price)} more than the shortest.`
						: '● Your order costs nothing.'}
					<Button size="xs" color="alternative" class="min-h-9" onclick={() => change({ order: [] })}
						>Let Tevrik choose</Button
					>
				{:else if thinking.problem}
					▲ That order cannot be: {thinking.problem}
				{:else}
					Drag a stretch of work, or use the arrows, to force an order and see its price.
				{/if}
			</p>
			<h2 class="mt-2">Lay out</h2>
			<div class="mt-1"><LayOut tests={inTurn} {titles} {methodOf} {waterName} /></div>
		{:else if !tests.length}
			{#if bare}
				<p class="max-w-prose">
					An evening is made of the kits on your shelf, and it is empty yet. Each is added in half a minute:
					how it is read, and the chart of its leaflet.
				</p>
				<Button class="mt-3 min-h-14 px-6 text-lg" href="/s/{system.id}/shelf/new">Add your first kit</Button>
			{/if}
			<p class="mt-3 max-w-prose text-faint">
				Choose the tests and Tevrik fills the waits of one with the hands of another, then runs the evening:
				one large step at a time, every clock in view.
			</p>
		{/if}
	</section>
</div>

<style>
	.session {
		display: grid;
		grid-template-columns: minmax(0, min(27rem, 45%)) minmax(0, 1fr);
		gap: 1rem 2rem;
		align-items: start;
	}
	@media (max-width: 60rem) {
		.session {
			grid-template-columns: minmax(0, 1fr);
		}
		/* How long it takes and Begin stand above the tests; the strip and what to lay out come after them. */
		.plan:has(.total) {
			display: contents;
		}
		.plan > .total,
		.plan:not(:has(.total)) {
			order: -1;
		}
		/* Three lines of it at most. */
		.saving {
			min-height: 3lh;
		}
	}
</style>
