<script lang="ts">
	/** The session as one strip: whose turn the hands have above, what stands and waits below, on the tank's clock. */
	import type { BenchResult, BenchTest } from '$core/schedule';
	import { clockTime, inMinutes } from './choices';

	interface StripTest extends BenchTest {
		title: string;
		symbol: string;
	}
	interface Props {
		plan: BenchResult;
		tests: StripTest[];
		startedAt: number;
		timeZone: string;
		/** The moment on the strip, for one that runs. */
		at?: number | undefined;
		/** Puts one test before another in the order in which they begin. */
		onmove?: ((test: string, before: string | undefined) => void) | undefined;
	}
	let { plan, tests, startedAt, timeZone, at, onmove }: Props = $props();

	const span = $derived(Math.max(60, plan.makespan));
	const share = (seconds: number) => (100 * seconds) / span;
	const known = $derived(new Map(tests.map((t) => [t.id, t])));

	/** Steps of one test that follow each other are one stretch of work. */
	const hands = $derived.by(() => {
		const stretches: { test: StripTest; start: number; end: number; steps: number[] }[] = [];
		for (const { test, step, start, end } of plan.steps) {
			const of = known.get(test);
			const last = stretches.at(-1);
			if (!of || end <= start) continue;
			if (last?.test.id === test && start - last.end < 1) {
				last.end = end;
				last.steps.push(step);
			} else stretches.push({ test: of, start, end, steps: [step] });
		}
		return stretches;
	});
	const waits = $derived(
		tests.flatMap((test) => {
			const steps = plan.steps.filter((s) => s.test === test.id);
			return test.steps.flatMap(({ then }, i) => {
				const [from, to] = [steps.find((s) => s.step === i), steps.find((s) => s.step === i + 1)];
				if (!then?.wait || !from || !to) return [];
				return [{ test, from: from.end, opens: from.end + then.wait, taken: to.start, wait: then.wait }];
			});
		})
	);
	const rows = $derived([...new Set(waits.map((w) => w.test.id))]);
	/** A time every five minutes, or so many that a few fit. */
	const ticks = $derived.by(() => {
		const every = [60, 120, 300, 600, 900, 1800].find((s) => span / s <= 7) ?? 3600;
		return Array.from({ length: Math.floor(span / every) + 1 }, (_, i) => i * every).filter(
			(tick) => share(tick) < 90
		);
	});

	let box: HTMLElement | undefined = $state();
	let dragged: { test: string; over: string | undefined } | undefined = $state();

	/** Which test's first stretch of work begins after the pointer. */
	function under(event: PointerEvent): string | undefined {
		const { left, width } = box!.getBoundingClientRect();
		const seconds = ((event.clientX - left) / width) * span;
		const firsts = [...new Set(hands.map((h) => h.test.id))].map((id) =>
			hands.find((h) => h.test.id === id)!
		);
		return firsts.find((h) => h.test.id !== dragged?.test && (h.start + h.end) / 2 > seconds)?.test.id;
	}
	function take(event: PointerEvent, test: string) {
		if (!onmove) return;
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		dragged = { test, over: test };
	}
	function move(event: PointerEvent) {
		if (dragged) dragged = { ...dragged, over: under(event) };
	}
	function leave() {
		if (dragged && dragged.over !== dragged.test) onmove?.(dragged.test, dragged.over);
		dragged = undefined;
	}
</script>

<figure aria-label="The evening: {inMinutes(plan.makespan)}, from {clockTime(startedAt, timeZone)}">
	<div class="strip" bind:this={box}>
		<div class="ruler" aria-hidden="true">
			{#each ticks as tick (tick)}
				<span class="tick" style:left="{share(tick)}%">
					<span class="figure text-xs">{clockTime(startedAt + tick * 1000, timeZone)}</span>
				</span>
			{/each}
		</div>
		<div class="lane hands" role="list" aria-label="Hands">
			{#each hands as h, i (i)}
				<div
					role="listitem"
					class="work"
					class:movable={onmove}
					class:dragged={dragged?.test === h.test.id}
					class:target={dragged && dragged.over === h.test.id && dragged.test !== h.test.id}
					data-test={h.test.id}
					data-from={h.start}
					data-to={h.end}
					style:left="{share(h.start)}%"
					style:width="{share(h.end - h.start)}%"
					title="{h.test.title}, {clockTime(startedAt + h.start * 1000, timeZone)}, {inMinutes(
						h.end - h.start
					)}: {h.steps.map((s) => h.test.steps[s]?.label).join(' ')}"
					onpointerdown={(e) => take(e, h.test.id)}
					onpointermove={move}
					onpointerup={leave}
					onpointercancel={() => (dragged = undefined)}
				>
					<span class="sr-only">{h.test.title}, {inMinutes(h.end - h.start)}</span>
					<span class="symbol" aria-hidden="true">{h.test.symbol}</span>
				</div>
			{/each}
		</div>
		{#each rows as id (id)}
			<div class="lane wait-lane">
				{#each waits.filter((w) => w.test.id === id) as w, i (i)}
					<div
						class="wait"
						class:ending={share(w.from) > 50}
						style:left="{share(w.from)}%"
						style:width="{share(w.opens - w.from)}%"
						title="{w.test.title} stands {inMinutes(w.wait)}"
					>
						<span>{w.test.symbol} stands {inMinutes(w.wait)}</span>
					</div>
					{#if w.taken > w.opens}
						<div
							class="open"
							style:left="{share(w.opens)}%"
							style:width="{share(w.taken - w.opens)}%"
							title="may be gone on with"
						></div>
					{/if}
				{/each}
			</div>
		{/each}
		{#if at !== undefined && at >= 0 && at <= span}
			<div class="now" style:left="{share(at)}%"></div>
		{/if}
	</div>
</figure>

<style>
	.strip {
		position: relative;
		padding-top: 1.4rem;
	}
	.ruler {
		position: absolute;
		inset: 0;
		pointer-events: none;
	}
	.tick {
		position: absolute;
		top: 0;
		bottom: 0;
		border-left: 1px solid var(--rule);
		padding-left: 0.25rem;
		color: var(--faint-ink);
	}
	.lane {
		position: relative;
		height: 1.5rem;
		margin-top: 0.25rem;
	}
	.hands {
		height: 3.25rem;
		border-block: 1px solid var(--glass);
	}
	.work {
		position: absolute;
		inset-block: 0;
		display: flex;
		align-items: center;
		justify-content: center;
		overflow: hidden;
		container-type: inline-size;
		background: var(--plum-wash);
		border-inline: 1px solid var(--sheet);
		border-bottom: 4px solid var(--plum);
		color: var(--ink);
		font-size: 0.85rem;
		font-weight: 600;
	}
	/* A sliver says nothing; its words are in its title. */
	@container (max-width: 1.5rem) {
		.symbol {
			display: none;
		}
	}
	.movable {
		cursor: grab;
		touch-action: none;
	}
	.dragged {
		opacity: 0.5;
	}
	.target {
		border-left: 4px solid var(--plum);
	}
	.wait,
	.open {
		position: absolute;
		inset-block: 0.2rem;
		white-space: nowrap;
		font-size: 0.75rem;
		color: var(--faint-ink);
	}
	/* Words of what begins late end where it ends: nothing stands past the strip. */
	.ending {
		display: flex;
		justify-content: flex-end;
	}
	.wait {
		border-bottom: 3px solid var(--glass);
		border-left: 2px solid var(--glass);
		padding-left: 0.25rem;
	}
	.open {
		border-bottom: 3px dotted var(--saffron);
	}
	.now {
		position: absolute;
		top: 1.2rem;
		bottom: 0;
		border-left: 3px solid var(--brick);
	}
</style>
