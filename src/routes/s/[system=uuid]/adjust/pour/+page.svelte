<script lang="ts">
	/** One pour by itself: how much for a change, or what an amount does. */
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { pourEvents } from '$core/adjust';
	import { formatUnit, isQuantity } from '$core/quantities';
	import { nameInSentence } from '$core/catalogue';
	import { COVERAGE_95 } from '$core/statistics';
	import { levelAt, pourOf, pourableOf, type PourAsked } from '$lib/ui/adjust/pour-draft';
	import { currentTime } from '$lib/ui/clock';
	import Field from '$lib/ui/forms/Field.svelte';
	import When from '$lib/ui/forms/When.svelte';
	import { figures, parameterFor, unitFor } from '$lib/ui/habits';
	import { changeFor, volumeFor, volumeUnit } from '$lib/ui/mine';
	import {
		alwaysInWords,
		amountInWords,
		cautionInWords,
		changeInWords,
		levelInWords,
		refusalInWords
	} from '$lib/ui/words/adjust';
	import { dateAndTime } from '$lib/ui/when';
	import { plural } from '$lib/ui/words/plural';
	import { writeDown } from '$lib/ui/written-events';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const system = $derived(data.system);
	const mayWrite = $derived(system.role !== 'viewer');
	const bottles = $derived(pourableOf(data.shelf));
	let bottleId = $state('');
	const bottle = $derived(bottles.find((b) => b.id === bottleId) ?? bottles[0]);
	let asked: PourAsked = $state({ of: 'change', text: '' });
	let when: string | null | undefined = $state();
	let saved: { undo: () => void; words: string } | undefined = $state();

	const titleOf = (id: string) => nameInSentence(id);
	const at = (parameter: string) => levelAt(data.levels, parameter);
	const planned = $derived(data.planned.find((p) => p.parameter === bottle?.main));
	const found = $derived(bottle && pourOf(asked, bottle, data));
	const its = $derived(found && !('problem' in found) ? found : undefined);
	const problem = $derived(found && 'problem' in found ? found.problem : undefined);
	const textOf = (field: 'change' | 'amount') => {
		if (asked.of === field || !its || !bottle) return asked.of === field ? asked.text : '';
		return field === 'amount'
			? figures(its.amount.value, 4)
			: figures(changeFor(bottle.main, its.change.value, at(bottle.main)), 3);
	};
	const amount = (value: number) => amountInWords(value, bottle?.brings.per, bottle?.profile.spoonG);
	const change = (parameter: string, value: number) => changeInWords(parameter, value, at(parameter));
	const plusOrMinus = (value: number, error: number) => figures(COVERAGE_95 * error, value ? 2 : 1);
	function poured() {
		if (!its || !bottle || when === null) return;
		const then = when ? `, ${dateAndTime(when, system.timeZone)}` : '';
		const words = `${amount(its.amount.value)} of ${bottle.profile.name}${then}`;
		const events = pourEvents(bottle.profile, its.amount.value, data.water.volumeL.value);
		saved = {
			undo: writeDown(system.id, when ? new Date(when) : currentTime(data.now), events, words),
			words
		};
		// One tap is not two: what was written down is no question any more.
		asked = { of: 'change', text: '' };
	}
</script>

<Title of="One pour" />
<p class="text-sm"><a class="link" href="/s/{system.id}/adjust">Adjust</a></p>
<h1>One pour</h1>
{#if !bottle}
	<div class="mt-4 max-w-prose">
		<p>
			How much of a bottle for a change, or what an amount of it does: with its error, over how many days, and
			what it leaves behind. Nothing that can be poured stands on your shelf yet.
		</p>
		<Button class="mt-4" href="/s/{system.id}/shelf/pour">Add something to pour</Button>
	</div>
{:else}
	<div class="grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
		<section aria-label="What is poured">
			<Label class="mt-3">
				Of
				<Select placeholder="" value={bottle.id} onchange={(e) => (bottleId = e.currentTarget.value)}>
					{#each bottles as b (b.id)}<option value={b.id}>{b.profile.name}</option>{/each}
				</Select>
			</Label>
			<Field
				name="change"
				label="To raise {titleOf(bottle.main)} by, {formatUnit(unitFor(bottle.main))}"
				value={textOf('change')}
				inputmode="decimal"
				problem={asked.of === 'change' ? problem : undefined}
				oninput={(e) => (asked = { of: 'change', text: (e.currentTarget as HTMLInputElement).value })}
			/>
			<Field
				name="amount"
				label="Or so much of it, {bottle.brings.per}"
				value={textOf('amount')}
				inputmode="decimal"
				problem={asked.of === 'amount' ? problem : undefined}
				oninput={(e) => (asked = { of: 'amount', text: (e.currentTarget as HTMLInputElement).value })}
			/>
			<p class="mt-2 text-sm text-faint">
				In {figures(volumeFor(data.water.volumeL.value))}
				{volumeUnit()} ± {figures(volumeFor(COVERAGE_95 * data.water.volumeL.standardUncertainty), 2)}.
				<a class="text-plum underline" href="/s/{system.id}/adjust/water">Measure it</a>
			</p>
		</section>
		<section
			aria-label="What it does"
			aria-live="polite"
			class="min-w-0 lg:border-l lg:pl-6"
			data-testid="dose"
		>
			{#if its}
				{@const whole = its.days > 1 ? 'Each day’s' : 'All of it'}
				{@const mine = parameterFor(bottle.main)}
				<p class="mt-3 text-3xl font-semibold">
					{amount(its.amount.value)}
					{#if its.amount.standardUncertainty > 0}<span class="text-lg font-normal text-faint"
							>± {plusOrMinus(its.amount.value, its.amount.standardUncertainty)}</span
						>{/if}
				</p>
				<p class="mt-1">
					{mine?.title ?? bottle.main}
					{change(bottle.main, its.change.value)}
					<span class="text-faint"
						>± {figures(
							COVERAGE_95 * Math.abs(changeFor(bottle.main, its.change.standardUncertainty, at(bottle.main))),
							2
						)}</span
					>
				</p>
				<ul class="mt-3 space-y-1.5">
					{#if planned?.odd || planned?.unproved}
						<li class="text-saffron">
							◐ {refusalInWords({ parameter: bottle.main, why: planned.odd ? 'odd' : 'unproved' })}
						</li>
					{/if}
					{#if planned && planned.now.mean + its.change.value > planned.band.upper}
						<li class="text-brick">
							▲ It would come to {levelInWords(bottle.main, planned.now.mean + its.change.value)}, above your
							band, which ends at {levelInWords(bottle.main, planned.band.upper)}.
						</li>
					{/if}
					{#if its.days > 1}
						<li>
							<span class="text-saffron" aria-hidden="true">◐</span> More than animals take in a day: over
							<strong>{plural(its.days, 'day')}</strong>, {amount(its.perDay)} on each.
						</li>
					{/if}
					<li>
						{its.portions === null
							? `${whole} by a drip or a dosing pump over the night: too much to pour by hand.`
							: its.portions === 1
								? `${whole} in one go, slowly.`
								: `${whole} in ${its.portions} portions, hours apart.`}
						{#if its.afterPortion}<span class="text-sm text-faint"
								>Right after one: pH {figures(its.afterPortion.ph)}, saturation of aragonite {figures(
									its.afterPortion.omegaAragonite,
									2
								)}.</span
							>{/if}
					</li>
					{#if its.sideEffects.length}
						<li>
							It also brings {its.sideEffects
								.map((e) =>
									isQuantity(e.parameter)
										? `${titleOf(e.parameter)} ${change(e.parameter, e.value)}`
										: `${e.parameter} +${figures(e.value, 2)} ${e.unit}`
								)
								.join(', ')}.
						</li>
					{/if}
					{#if bottle.left !== null}
						<li>
							{figures(bottle.left)}
							{bottle.brings.per} are left{its.lastsDays === null
								? ''
								: `, enough for ${plural(Math.floor(its.lastsDays), 'day')} at your pace`}{bottle.left <
							its.amount.value
								? ': not enough for this'
								: ''}.
						</li>
					{/if}
					{#if its.cost !== null && its.cost >= 0.01}<li>It costs {figures(its.cost, 2)}.</li>{/if}
				</ul>
				{#if mayWrite}
					<div class="mt-3 flex flex-wrap items-end gap-3">
						<When now={data.now} timeZone={system.timeZone} bind:at={when} />
						<Button onclick={poured} disabled={its.days > 1 || when === null}>I poured this</Button>
						{#if its.days > 1}<span class="text-sm text-faint"
								>Pour and write down one day’s at a time, or let <a
									class="text-plum underline"
									href="/s/{system.id}/adjust">the plan</a
								> do it.</span
							>{/if}
					</div>
				{/if}
				<h2 class="mt-4">Mind</h2>
				<p class="mt-1 text-sm text-faint">{its.cautions.map(cautionInWords).join(' ')} {alwaysInWords()}</p>
			{:else}
				<p class="mt-3 text-faint">Type a change or an amount, and see what it takes and what it does.</p>
			{/if}
			{#if saved}
				<p class="mt-2 flex items-center gap-3 text-sm" role="status">
					● Saved: {saved.words}
					<button
						class="link px-2"
						onclick={() => {
							saved?.undo();
							saved = undefined;
						}}>Undo</button
					>
				</p>
			{/if}
		</section>
	</div>
{/if}
