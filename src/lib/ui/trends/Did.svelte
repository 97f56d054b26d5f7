<script lang="ts">
	/** What was done to the water, written down in two taps where it is looked at. */
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { good, type Outcome, type Problem } from '$core/problems';
	import { formatUnit, parameterOf, slopeAt, type Parameter } from '$core/quantities';
	import { amountIn, changeIn } from '$core/quick';
	import type { WaterEvent } from '$core/trend';
	import { savingEvent, voiding } from '$lib/client/commands';
	import type { SaveEvent } from '$lib/api/events';
	import { currentTime } from '$lib/ui/clock';
	import { figures, typedAs } from '$lib/ui/habits';
	import { doseUnit, valueFor, volumeFor, volumeUnit } from '$lib/ui/mine';
	import { post } from '$lib/ui/outbox.svelte';

	interface Props {
		parameter: Parameter;
		system: { id: string; netVolumeL: number };
		now: string;
		/** What is dosed a day now. */
		dosing: number;
		/** What new water usually has, by parameter. */
		usualNew: Record<string, number>;
	}
	let { parameter, system, now, dosing, usualNew }: Props = $props();
	/** As it is stored. */
	const kept = $derived(parameterOf(parameter.id)!);

	type Kind = 'water-change' | 'dose' | 'dosing' | 'note';
	const NOTES = ['note', 'feeding', 'livestock', 'death', 'equipment'] as const;
	let about: (typeof NOTES)[number] = $state('note');
	let open: Kind | undefined = $state();
	let amount = $state('');
	let newWater = $state('');
	let supplement = $state('');
	let pouredText = $state('');
	let saved: { id: string; words: string } | undefined = $state();

	const hasUnit = (text: string) => /[a-z]/i.test(text);
	const messageOf = (problems: Problem[]) => problems[0]?.message ?? 'is not a number';
	/** Of a change: a share of the tank from a share or from how much was changed. */
	const shareOf = (text: string): Outcome<number> => {
		const percent = /%\s*$/.test(text) || !hasUnit(text);
		const found = amountIn(text.replace('%', ''), 'volume', 'L');
		return found.ok ? good(found.value / (percent ? 100 : system.netVolumeL)) : found;
	};
	/** A dose by volume or by weight, whichever was said; the keeper's usual one where neither was. */
	function poured(text: string): Outcome<{ amountMl: number } | { amountG: number }> {
		const volume = amountIn(text, 'volume', 'mL');
		const mass = amountIn(text, 'mass', 'g', doseUnit() === 'mL' ? 'g' : doseUnit());
		const byVolume = hasUnit(text) ? volume.ok : doseUnit() === 'mL';
		if (byVolume) return volume.ok ? good({ amountMl: volume.value }) : volume;
		return mass.ok ? good({ amountG: mass.value }) : mass;
	}
	const first: Record<Kind, () => string> = {
		'water-change': () => '10 %',
		dose: () => '',
		dosing: () => (dosing ? typedAs(dosing, 4) : ''),
		note: () => ''
	};
	function choose(kind: Kind) {
		open = open === kind ? undefined : kind;
		amount = first[kind]();
		const usual = usualNew[parameter.id];
		newWater = usual === undefined ? '' : typedAs(valueFor(parameter.id, usual), 5);
	}
	/** The event that the form stands for, or what is wrong with it. */
	const made: { event: WaterEvent; words: string } | { problem: string } | undefined = $derived.by(() => {
		if (!open || amount.trim() === '') return undefined;
		if (open === 'water-change') {
			const share = shareOf(amount);
			if (!share.ok || share.value <= 0)
				return { problem: 'write a share or a volume, for example 10 %, 38 L or 10 gal' };
			const fraction = share.value;
			if (fraction > 1)
				return {
					problem: `is more than the tank's ${figures(volumeFor(system.netVolumeL))} ${volumeUnit()}`
				};
			const fresh =
				newWater.trim() === '' ? undefined : amountIn(newWater, parameter.id, kept.unit, parameter.unit);
			if (fresh && !fresh.ok) return { problem: `the new water: ${messageOf(fresh.problems)}` };
			const here = fresh?.value;
			return {
				event: {
					kind: open,
					fraction,
					newWater: { ...usualNew, ...(here === undefined ? {} : { [parameter.id]: here }) }
				},
				words: `water change of ${figures(100 * fraction)} %`
			};
		}
		if (open === 'note')
			return { event: { kind: about, text: amount.trim() }, words: `${about}: ${amount.trim()}` };
		const change = changeIn(amount, parameter.id, parameter.unit);
		if (!change.ok) return { problem: messageOf(change.problems) };
		// By the slope in the middle of what such water has: a change says nothing of where it began.
		const middle = (parameter.plausible[0] + parameter.plausible[1]) / 2;
		const slope = slopeAt(parameter.id, middle, parameter.unit, kept.unit);
		const asKept = hasUnit(amount) || slope !== 1 ? 4 : 12;
		const value = Number((change.value * slope).toPrecision(asKept));
		const shown = `${figures(change.value, 4)} ${formatUnit(parameter.unit)}`;
		const amountOf = pouredText.trim() === '' ? undefined : poured(pouredText);
		if (amountOf && !amountOf.ok) return { problem: `how much was poured: ${messageOf(amountOf.problems)}` };
		const of = supplement.trim() ? { supplement: supplement.trim() } : {};
		return open === 'dose'
			? {
					event: {
						kind: open,
						parameter: parameter.id,
						change: value,
						...of,
						...amountOf?.value
					},
					words: `dose of ${shown}`
				}
			: {
					event: { kind: open, parameter: parameter.id, perDay: value, ...of },
					words: `dosing of ${shown} a day`
				};
	});

	function save(event: Event) {
		event.preventDefault();
		if (!made || 'problem' in made) return;
		const id = uuid();
		const body: SaveEvent = { systemId: system.id, at: currentTime(now).toISOString(), event: made.event };
		post(savingEvent(id, body, made.words));
		saved = { id, words: made.words };
		open = undefined;
	}
	function undo() {
		if (!saved) return;
		post(voiding('events', saved.id, 'undone right after saving', `undoing the ${saved.words}`));
		saved = undefined;
	}
	const LABELS: Record<Kind, string> = {
		'water-change': 'Water change',
		dose: 'Dose',
		dosing: 'Dosing rate',
		note: 'Something else'
	};
</script>

<div class="flex flex-wrap items-center gap-2">
	<span class="text-sm text-faint">Done today:</span>
	{#each ['water-change', 'dose', 'dosing', 'note'] as const as kind (kind)}
		<Button size="sm" color="alternative" aria-expanded={open === kind} onclick={() => choose(kind)}
			>{LABELS[kind]}</Button
		>
	{/each}
	{#if saved}
		<span class="text-sm" role="status"
			>● Saved: {saved.words}
			<button class="min-h-11 px-2 text-plum underline" onclick={undo}>Undo</button></span
		>
	{/if}
</div>
{#if open}
	<form class="mt-2 flex flex-wrap items-end gap-3" onsubmit={save}>
		<Label>
			{open === 'water-change'
				? `How much, % or ${volumeUnit()}`
				: open === 'dose'
					? `Raises ${parameter.title.toLowerCase()} by, ${formatUnit(parameter.unit)}`
					: open === 'note'
						? 'What happened'
						: `Dosed from now on, ${formatUnit(parameter.unit)} a day`}
			<Input
				class="figure w-40!"
				bind:value={amount}
				autofocus
				inputmode={open === 'note' ? 'text' : 'decimal'}
				maxlength={300}
				data-amount
				aria-invalid={made && 'problem' in made ? 'true' : undefined}
				aria-describedby="did-problem"
			/>
		</Label>
		{#if open === 'water-change'}
			<Label>
				New water has, {formatUnit(parameter.unit)}
				<Input class="figure w-40!" bind:value={newWater} placeholder="not known" inputmode="decimal" />
			</Label>
		{/if}
		{#if open === 'note'}
			<Label>
				Kind
				<Select placeholder="" bind:value={about}>
					{#each NOTES as kind (kind)}<option>{kind}</option>{/each}
				</Select>
			</Label>
		{/if}
		{#if open === 'dose' || open === 'dosing'}
			<Label>
				Supplement, if you like
				<Input class="w-44!" maxlength={200} bind:value={supplement} />
			</Label>
		{/if}
		{#if open === 'dose'}
			<Label>
				Poured, {doseUnit()}
				<Input class="figure w-28!" bind:value={pouredText} inputmode="decimal" />
			</Label>
		{/if}
		<Button type="submit" disabled={!made || 'problem' in made}>Save</Button>
		<p id="did-problem" class="basis-full text-sm" aria-live="polite">
			{#if made && 'problem' in made}<span class="text-brick">▲ {made.problem}</span>
			{:else if made && open !== 'note' && hasUnit(amount)}<span class="text-faint">● {made.words}</span>{/if}
		</p>
	</form>
	{#if open === 'dose' || open === 'dosing'}
		<p class="mt-1 max-w-prose text-sm text-faint">
			Dose slowly into flow, away from animals; never mix calcium and alkalinity concentrates. The label
			rules.
		</p>
	{/if}
{/if}
