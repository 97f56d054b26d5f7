<script lang="ts">
	/** The days of a plan as rows of glasses: how much of what, when. What was done is ticked off. */
	import { DAY } from '$core/base';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import { amountIn } from '$core/quick';
	import { typedAs } from '$lib/ui/habits';
	import { dayInWords, dayShort } from '$lib/ui/when';
	import { volumeFor, volumeUnit } from '$lib/ui/mine';
	import Glass from './Glass.svelte';
	import { canMove, type PlanView, type StepView } from './plan-view';

	interface Props {
		view: PlanView;
		/** The day of the plan it is. */
		today: number;
		madeAt: string;
		timeZone: string;
		system: string;
		isDone: (step: StepView) => boolean;
		ontick?: (step: StepView, amount: number | undefined, leftOut?: boolean) => void;
		onuntick?: (step: StepView) => void;
		/** Puts a glass on another day, and says beforehand what that costs. Days of the plan. */
		onmove?: (step: StepView, to: number) => void;
		priceOfMove?: (step: StepView, to: number) => Promise<string | undefined>;
	}
	let { view, today, madeAt, timeZone, system, isDone, ontick, onuntick, onmove, priceOfMove }: Props =
		$props();

	const momentOf = (day: number) => new Date(Date.parse(madeAt) + day * DAY).toISOString();
	const now = $derived(momentOf(today));
	const titleOf = (day: number) => {
		const words = dayInWords(momentOf(day), now, timeZone).replace('on ', '');
		const date = dayShort(momentOf(day), timeZone);
		return day < today ? date : day - today < 7 ? `${words}, ${date}` : date;
	};
	/** What is behind and done is of no use; what is behind and open is late. */
	const days = $derived(
		[...new Set(view.steps.map((s) => s.day))]
			.map((day) => ({ day, steps: view.steps.filter((s) => s.day === day) }))
			.filter(({ day, steps }) => day >= today || steps.some((s) => !isDone(s) && mayTick(s)))
	);
	const mayTick = (step: StepView) => step.kind !== 'test' && step.kind !== 'wait';
	const late = (step: StepView) => step.day < today && !isDone(step) && mayTick(step);

	/** The step whose amount is being typed. */
	let other: number | undefined = $state();
	let typed = $state('');

	/** The glass that is being moved, and what each day would cost: they come one after the other. */
	let moving: number | undefined = $state();
	let prices: Record<number, string> = $state({});
	const mayMove = (step: StepView) => canMove(step) && step.day >= today && !isDone(step);
	/** A week before and after, within the plan. */
	const daysFor = (step: StepView) =>
		Array.from({ length: 15 }, (_, i) => step.day - 7 + i).filter(
			(day) => day >= today && day < view.days && day !== step.day
		);
	async function move(step: StepView) {
		prices = {};
		if (moving === step.place) return (moving = undefined);
		moving = step.place;
		other = undefined;
		// Later days first: that is where most glasses go.
		const days = daysFor(step);
		for (const day of [...days.filter((d) => d > step.day), ...days.filter((d) => d < step.day).reverse()]) {
			const price = await priceOfMove?.(step, day);
			if (moving !== step.place) return;
			prices[day] = price ?? '';
		}
	}
	const isLitres = (step: StepView) => step.unit === 'L';
	const read = (step: StepView) =>
		isLitres(step)
			? amountIn(typed, 'volume', 'L', volumeUnit())
			: amountIn(typed, step.unit === 'g' ? 'mass' : 'volume', step.unit === 'g' ? 'g' : 'mL');
	function open(step: StepView) {
		other = step.place;
		typed = typedAs(isLitres(step) ? volumeFor(step.amount) : step.amount, 4);
	}
	function save(event: Event, step: StepView) {
		event.preventDefault();
		const amount = read(step);
		if (!amount.ok) return;
		ontick?.(step, amount.value);
		other = undefined;
	}
</script>

<ol class="mt-3 divide-y border-y" data-testid="days">
	{#each days as { day, steps } (day)}
		<li class="grid gap-x-4 py-2 sm:grid-cols-[7.5rem_minmax(0,1fr)]" data-day={day}>
			<h2 class="pt-2 text-sm font-semibold" class:text-brick={day < today}>
				{titleOf(day)}
			</h2>
			<ul>
				{#each steps as step (step.place)}
					<li
						class="flex flex-wrap items-center gap-x-3 gap-y-1 py-1"
						data-step={step.place}
						data-kind={step.kind}
					>
						<Glass fill={step.fill} kind={step.kind} />
						<div class="min-w-0 flex-1">
							<p class="leading-snug">
								<span class="font-medium" class:line-through={step.done?.leftOut}>{step.what}</span>
								{#if step.does}<span class="figure text-sm text-faint">{step.does}</span>{/if}
								{#if step.manner}<span class="text-sm">· {step.manner}</span>{/if}
							</p>
							<p class="text-sm leading-snug text-faint">
								{#if late(step)}<span class="text-brick">late · </span>{/if}{step.why}
							</p>
						</div>
						{#if step.kind === 'test' && day <= today}
							<a
								class="link shrink-0 px-2 text-sm print:hidden"
								href="/s/{system}/bench/one?of={step.parameter}">Measure</a
							>
						{:else if ontick && mayTick(step) && day <= today}
							<span class="flex flex-wrap items-center gap-1 print:hidden">
								{#if isDone(step)}
									<span class="text-sm text-moss">{step.done?.leftOut ? 'left out' : '✓ done'}</span>
									<Button
										size="sm"
										color="alternative"
										onclick={() => onuntick?.(step)}
										aria-label="Undo: {step.what}">Undo</Button
									>
								{:else}
									<Button
										size="sm"
										class="min-h-11"
										onclick={() => ontick(step, undefined)}
										aria-label="Done: {step.what}">Done</Button
									>
									<button
										class="act"
										type="button"
										aria-expanded={other === step.place}
										aria-controls="amount-{step.place}"
										onclick={() => (other === step.place ? (other = undefined) : open(step))}>Other</button
									>
								{/if}
							</span>
						{/if}
						{#if onmove && mayMove(step)}
							<button
								class="act print:hidden"
								type="button"
								aria-expanded={moving === step.place}
								aria-controls="days-{step.place}"
								aria-label="Move: {step.what}"
								onclick={() => move(step)}>Move</button
							>
						{/if}
						{#if moving === step.place}
							<div
								id="days-{step.place}"
								class="grid w-full grid-cols-2 gap-1 sm:grid-cols-4"
								role="group"
								aria-label="To which day"
								data-testid="move-to"
							>
								{#each daysFor(step) as to (to)}
									<button
										type="button"
										class="to"
										onclick={() => {
											moving = undefined;
											onmove?.(step, to);
										}}
										><span class="font-medium">{titleOf(to)}</span>
										<span class="text-sm text-faint">{prices[to] ?? '…'}</span></button
									>
								{/each}
							</div>
						{/if}
						{#if other === step.place}
							{@const amount = read(step)}
							<form
								id="amount-{step.place}"
								class="flex w-full flex-wrap items-center gap-2 ps-8"
								onsubmit={(e) => save(e, step)}
							>
								<label class="text-sm" for="other-{step.place}"
									>How much, {isLitres(step) ? volumeUnit() : step.unit === 'g' ? 'g' : 'mL'}{step.unit ===
									'mL/day'
										? ' a day'
										: ''}</label
								>
								<Input
									id="other-{step.place}"
									class="w-28"
									inputmode="decimal"
									bind:value={typed}
									aria-invalid={!amount.ok}
								/>
								<Button type="submit" size="sm" disabled={!amount.ok}>Save</Button>
								<button
									class="act"
									type="button"
									onclick={() => {
										ontick?.(step, undefined, true);
										other = undefined;
									}}>Left out</button
								>
								{#if !amount.ok && typed}<p class="w-full text-sm text-brick" role="alert">
										▲ {amount.problems[0]?.message}
									</p>{/if}
							</form>
						{/if}
					</li>
				{/each}
			</ul>
		</li>
	{:else}
		<li class="py-3">Nothing is left to do in this plan.</li>
	{/each}
</ol>

<style>
	.act {
		min-height: 2.75rem;
		padding-inline: 0.6rem;
		border-radius: 8px;
		font-size: 0.875rem;
		color: var(--plum);
	}
	.act:hover,
	.to:hover {
		background: var(--plum-wash);
	}
	.to {
		display: flex;
		flex-direction: column;
		/* What it costs comes a moment later: two lines of it have room. */
		min-height: 4.25rem;
		padding: 0.35rem 0.6rem;
		border: 1px solid var(--rule);
		border-radius: 8px;
		line-height: 1.25;
		text-align: start;
	}
</style>
