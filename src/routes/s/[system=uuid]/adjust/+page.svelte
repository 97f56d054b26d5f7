<script lang="ts">
	import { DAY } from '$core/base';
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { WISHES, type CorrectRequest, type PlanWish, type Wish } from '$core/adjust';
	import { PLAN_DAYS, queryOf, withMove, withMoves } from '$lib/api/plan-query';
	import { followingPlan } from '$lib/client/commands';
	import { openPlans } from '$lib/client/plans';
	import Days from '$lib/ui/adjust/Days.svelte';
	import Levels from '$lib/ui/adjust/Levels.svelte';
	import { moveOf, priceOf, type Price, type StepView } from '$lib/ui/adjust/plan-view';
	import { openTicks } from '$lib/ui/adjust/ticks.svelte';
	import { figures } from '$lib/ui/habits';
	import { outbox, post } from '$lib/ui/outbox.svelte';
	import { alwaysInWords, priceOfMoveInWords } from '$lib/ui/words/adjust';
	import { dayInWords } from '$lib/ui/when';
	import { plural } from '$lib/ui/words/plural';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();

	const NAMES: Record<Wish, string> = {
		soonest: 'Home soonest',
		least: 'Least to pour',
		fewest: 'Fewest pours'
	};
	/** Whoever only looks at a tank does nothing to it. */
	const mayWrite = $derived(data.system.role !== 'viewer');
	const prefer = $derived(data.wish.prefer ?? 'soonest');
	/** Whoever follows a plan sees it, until they ask for another. */
	const asks = $derived(page.url.search !== '');
	const shown = $derived(data.followed && !asks ? data.followed.view : data.view);
	const followed = $derived(data.followed && !asks ? data.followed : null);
	const today = $derived(followed?.day ?? 0);
	const madeAt = $derived(followed?.madeAt ?? data.made);

	const wishing = (next: PlanWish) =>
		goto(`${page.url.pathname}${queryOf({ ...data.wish, ...next }) || '?prefer=soonest'}`, {
			noScroll: true,
			keepFocus: true
		});

	/** What the same would cost by another wish, from this page's own worker. */
	let prices: Partial<Record<Wish, Price>> = $state({});
	let plans: ReturnType<typeof openPlans> | undefined;
	async function priceBy(change: Partial<CorrectRequest>) {
		plans ??= openPlans();
		const made = await plans.plan({ ...$state.snapshot(data.request), ...change });
		return made?.ok ? { made: made.value, price: priceOf(data.request, made.value) } : undefined;
	}
	onMount(() => () => plans?.close());
	/** The solver is megabytes: it comes once somebody asks. */
	let comparing = $state(false);
	async function compare() {
		// What was pressed goes: the keyboard stays among the wishes.
		document.querySelector<HTMLElement>('[data-wish][aria-checked=true]')?.focus();
		comparing = true;
		for (const other of WISHES) {
			const priced = await priceBy({ prefer: other });
			if (priced) prices[other] = priced.price;
		}
	}

	/** A glass on another day: days of the plan that is shown, which may be older than the one that is made now. */
	const movesWith = (step: StepView, to: number) =>
		withMove(data.wish.moves ?? [], moveOf(step, step.day - today, to - today));
	async function priceOfMove(step: StepView, to: number) {
		const priced = await priceBy({ moves: movesWith(step, to) });
		const short = priced?.made.risks.find(
			(r) => r.kind === 'moved' && r.supplement === step.supplement && r.day === to - today
		);
		if (short)
			return short.supplement
				? `takes ${figures(short.numbers['got'] ?? 0)} of ${figures(short.numbers['wanted'] ?? 0)}`
				: 'no change possible';
		return priced && priceOfMoveInWords(data.view.price, priced.price);
	}
	let banner: HTMLElement | undefined = $state();
	async function move(step: StepView, to: number) {
		const moves = movesWith(step, to);
		const { moves: _before, ...rest } = data.wish;
		const wish = { ...rest, ...withMoves(moves) };
		await goto(`${page.url.pathname}${queryOf(wish) || `?prefer=${prefer}`}`, { noScroll: true });
		banner?.focus();
	}
	const unmoved = $derived.by(() => {
		const { moves: _moves, ...rest } = data.wish;
		return queryOf(rest) || `?prefer=${prefer}`;
	});
	/** Nothing to do, by whichever wish. */
	const idle = $derived(
		data.view.idle !== null && WISHES.every((w) => !prices[w] || (prices[w].pours === 0 && !prices[w].water))
			? data.view.idle
			: null
	);
	function priceInWords({ home, pours, poured, water, safe }: Price): string {
		if (!safe) return 'not safe';
		const when = home === null ? 'not all home' : home === 0 ? 'home now' : `home in ${plural(home, 'day')}`;
		const pouring = pours ? [plural(pours, 'pour'), poured] : water ? [] : ['nothing to pour'];
		return [when, ...pouring, water && `${water} changed`].filter(Boolean).join(' · ');
	}

	const ticks = openTicks(
		() => followed?.id,
		() => data.now
	);
	$effect(() => {
		if (data.followed) ticks.forget();
	});
	const isDone = (step: StepView) => ticks.isDone(step.place, step.done !== undefined);

	/** On its way to the server; what the server refuses stands in the list of what waits, and can be asked again. */
	const following = $derived(
		outbox.waiting.some((w) => /\/plans\/[^/]+$/.test(w.path) && w.method === 'PUT' && !w.problems)
	);
	function follow() {
		post(followingPlan(uuid(), { systemId: data.system.id, wish: data.wish }));
		if (asks) void goto(page.url.pathname, { noScroll: true });
	}
	const tick = (step: StepView, amount: number | undefined, leftOut = false) =>
		ticks.tick(step.place, step.what, {
			...(amount === undefined ? {} : { amount }),
			...(leftOut ? { leftOut } : {})
		});
	const untick = (step: StepView) => ticks.untick(step.place, step.what);
	const changeDays = $derived(
		data.wish.noChangeBefore === undefined ? '0' : String(data.wish.noChangeBefore)
	);
</script>

<Title of="Adjust" />

<div class="flex flex-wrap items-center gap-x-4 gap-y-1">
	<h1>Adjust</h1>
	<p class="text-sm text-faint">
		{followed
			? `The plan you follow, made ${today <= 0 ? 'today' : `${plural(today, 'day')} ago`}`
			: 'One plan that brings every level into its band'}
	</p>
	<span class="ms-auto flex flex-wrap gap-1 text-sm print:hidden">
		<a class="act" href="/s/{data.system.id}/adjust/water">Water and volume</a>
		<a class="act" href="/s/{data.system.id}/adjust/pour">One pour</a>
		<a class="act" href="/s/{data.system.id}/adjust/mix">Mixing waters</a>
		<a class="act" href="/s/{data.system.id}/shelf#pour">What you pour</a>
		<button class="act" type="button" onclick={() => print()}>Print</button>
	</span>
</div>

{#if data.nothing}
	<div class="mt-6 max-w-prose">
		<p>
			A plan goes by what you measured: what to pour, how much and when, so that nothing moves faster than
			animals take it. Nothing is measured yet by a kit of your own.
		</p>
		<Button class="mt-4" href="/s/{data.system.id}/bench">Plan an evening</Button>
	</div>
{:else}
	{#if followed?.changes.length}
		<section class="mt-3 rounded-xl bg-saffron-wash p-3" aria-label="What changed" data-testid="changes">
			<h2>Measured since</h2>
			<ul class="mt-1 list-disc ps-5">
				{#each followed.changes as change (change)}<li>{change}</li>{/each}
			</ul>
			<div class="mt-2 flex flex-wrap gap-2">
				{#if mayWrite}<Button onclick={follow} disabled={following}>Plan again from here</Button>{/if}
				<Button color="alternative" href={queryOf(data.wish) || `?prefer=${prefer}`}>See it first</Button>
			</div>
		</section>
	{/if}
	<div class="mt-3 grid gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
		<section aria-label="Days" class="min-w-0">
			{#if !followed}
				<div class="flex flex-wrap items-end gap-x-4 gap-y-2 print:hidden">
					<Label class="text-sm">
						Looking ahead
						<Select
							placeholder=""
							value={String(data.wish.days ?? PLAN_DAYS)}
							onchange={(e) => wishing({ days: Number(e.currentTarget.value) })}
						>
							{#each [7, 14, 28] as days (days)}<option value={String(days)}>{days} days</option>{/each}
						</Select>
					</Label>
					{#if data.changesWater}
						<Label class="text-sm">
							Water changes
							<Select
								placeholder=""
								value={changeDays}
								onchange={(e) =>
									wishing({
										noChangeBefore:
											e.currentTarget.value === 'never' ? 'never' : Number(e.currentTarget.value)
									})}
							>
								<option value="0">from today</option>
								<option value="2"
									>not before {dayInWords(
										new Date(Date.parse(data.now) + 2 * DAY).toISOString(),
										data.now,
										data.system.timeZone
									).replace('on ', '')}</option
								>
								<option value="5"
									>not before {dayInWords(
										new Date(Date.parse(data.now) + 5 * DAY).toISOString(),
										data.now,
										data.system.timeZone
									).replace('on ', '')}</option
								>
								<option value="never">none</option>
							</Select>
						</Label>
					{/if}
					{#if data.shelf.length}
						<fieldset class="flex flex-wrap items-center gap-x-3">
							<legend class="text-sm font-medium">With</legend>
							{#each data.shelf as s (s.id)}
								<Checkbox
									checked={!data.wish.without?.includes(s.id)}
									onchange={(e) =>
										wishing({
											without: e.currentTarget.checked
												? (data.wish.without ?? []).filter((id) => id !== s.id)
												: [...(data.wish.without ?? []), s.id]
										})}>{s.name}</Checkbox
								>
							{/each}
						</fieldset>
					{/if}
				</div>
				{#if idle}<p class="mt-3 rounded-lg bg-plum-wash p-3" data-testid="idle">{idle}</p>{/if}
				<div
					role="radiogroup"
					aria-label="What matters most"
					hidden={idle !== null}
					class="mt-2 grid gap-2 sm:grid-cols-3 print:hidden"
				>
					{#each WISHES as wish (wish)}
						<button
							type="button"
							role="radio"
							aria-checked={prefer === wish}
							class="wish"
							data-wish={wish}
							onclick={() => wishing({ prefer: wish })}
						>
							<span class="font-semibold">{NAMES[wish]}</span>
							<span class="text-sm text-faint"
								>{prices[wish]
									? priceInWords(prices[wish])
									: prefer === wish
										? priceInWords(data.view.price)
										: comparing
											? '…'
											: ''}</span
							>
						</button>
					{/each}
				</div>
				{#if !comparing}<button type="button" class="link text-sm print:hidden" onclick={compare}
						>What would the others take?</button
					>{/if}
			{/if}
			{#if shown.says.some((s) => s.tone === 'brick')}
				{#each shown.says.filter((s) => s.tone === 'brick') as said (said.text)}
					<p class="mt-3 rounded-lg bg-brick-wash p-3" role="alert">▲ {said.text}</p>
				{/each}
			{/if}
			{#if data.moved && !followed}
				<div
					bind:this={banner}
					class="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 rounded-lg bg-plum-wash p-3"
					role="status"
					tabindex="-1"
					data-testid="moved"
				>
					<div class="min-w-0 flex-1">
						{#each data.moved.says as said (said)}<p class="leading-snug">Moved: {said}.</p>{/each}
						<p class="text-sm text-faint">Beside the plan without it: {data.moved.costs}.</p>
					</div>
					<Button color="alternative" href={unmoved}>Put back</Button>
				</div>
			{/if}
			<Days
				view={shown}
				{today}
				{madeAt}
				timeZone={data.system.timeZone}
				system={data.system.id}
				{isDone}
				{...followed && mayWrite ? { ontick: tick, onuntick: untick } : {}}
				onmove={move}
				{priceOfMove}
			/>
			{#if followed}
				<p class="mt-3 text-sm print:hidden">
					<a class="text-plum underline" href={queryOf(data.wish) || `?prefer=${prefer}`}
						>Ask for another plan</a
					>
				</p>
			{:else if mayWrite && data.view.safe && data.view.steps.some((s) => s.kind !== 'wait')}
				<div class="mt-3 flex flex-wrap gap-2 print:hidden">
					<Button class="min-h-14 px-6 text-lg" onclick={follow} disabled={following} data-testid="follow"
						>{data.followed ? 'Follow this one instead' : 'Follow this plan'}</Button
					>
					{#if data.followed}<Button color="alternative" href={page.url.pathname}>Back to yours</Button>{/if}
				</div>
			{/if}
		</section>
		<aside aria-label="Levels" class="min-w-0 lg:border-l lg:pl-5">
			<Levels view={shown} system={data.system.id} {madeAt} now={data.now} timeZone={data.system.timeZone} />
			{#if shown.says.some((s) => s.tone !== 'brick')}
				<h2 class="mt-4">Also</h2>
				<ul class="mt-1 space-y-2 text-sm" data-testid="says">
					{#each shown.says.filter((s) => s.tone !== 'brick') as said (said.text)}
						<li class="leading-snug">
							<span class="text-{said.tone === 'plain' ? 'faint' : 'saffron'}" aria-hidden="true"
								>{said.tone === 'plain' ? '○' : '◐'}</span
							>
							{said.text}
						</li>
					{/each}
				</ul>
			{/if}
			<h2 class="mt-4">Mind</h2>
			<ul class="mt-1 space-y-2 text-sm text-faint" data-testid="cautions">
				{#each shown.cautions as { name, says } (name)}
					<li class="leading-snug"><span class="font-medium text-ink">{name}.</span> {says.join(' ')}</li>
				{/each}
				<li class="leading-snug">{alwaysInWords()}</li>
			</ul>
		</aside>
	</div>
{/if}

<style>
	.act {
		display: inline-flex;
		align-items: center;
		min-height: 2.75rem;
		padding-inline: 0.6rem;
		border-radius: 8px;
		color: var(--plum);
	}
	.act:hover {
		background: var(--plum-wash);
	}
	.wish {
		display: flex;
		flex-direction: column;
		gap: 0.1rem;
		/* Its price comes a moment later: two lines of it have room. */
		min-height: 5.25rem;
		padding: 0.5rem 0.75rem;
		border: 1px solid var(--rule);
		border-radius: 10px;
		text-align: start;
	}
	.wish:hover {
		background: var(--plum-wash);
	}
	.wish[aria-checked='true'] {
		border-color: var(--plum);
		box-shadow: inset 0 0 0 1px var(--plum);
	}
</style>
