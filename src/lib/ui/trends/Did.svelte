<script lang="ts">
	/** What was done to the water, written down in two taps where it is looked at. */
	import { onMount } from 'svelte';
	import { page } from '$app/state';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { compositionOf, dosingEvents, healthyOf, pourEvents, saltEvents } from '$core/adjust';
	import { LIVED_IN, isEarly } from '$core/targets';
	import { type Phase, nameInSentence, parameterOf, type KnownParameter } from '$core/catalogue';
	import { good, type Outcome, type Problem } from '$core/base';
	import { formatUnit, slopeAt } from '$core/quantities';
	import { amountIn, changeIn } from '$core/quick';
	import type { WaterEvent } from '$core/trend';
	import type { ShelfSupplement } from '$lib/api/supplements';
	import { currentTime } from '$lib/ui/clock';
	import When from '$lib/ui/forms/When.svelte';
	import { figures, typedAs } from '$lib/ui/habits';
	import { doseUnit, valueFor, volumeFor, volumeUnit } from '$lib/ui/mine';
	import { dateAndTime } from '$lib/ui/when';
	import { amountInWords, changeInWords } from '$lib/ui/words/adjust';
	import { afterDeathInWords } from '$lib/ui/words/judgements';
	import { writeDown } from '$lib/ui/written-events';

	interface Props {
		parameter: KnownParameter;
		system: { id: string; netVolumeL: number; timeZone: string; phase?: Phase };
		now: string;
		/** What is dosed a day now. */
		dosing: number;
		/** What new water usually has, by parameter. */
		usualNew: Record<string, number>;
		/** What stands on the shelf to be poured. */
		bottles: Pick<ShelfSupplement, 'id' | 'profile'>[];
		/** What a dosing pump gives of a bottle now, mL a day. */
		rates?: Record<string, number>;
	}
	let { parameter, system, now, dosing, usualNew, bottles, rates = {} }: Props = $props();
	// Asked for by the address: what was planned elsewhere is written down here.
	onMount(() => {
		const asked = page.url.searchParams;
		const kind = asked.get('did') as Kind | null;
		if (!kind || !(kind in LABELS)) return;
		choose(kind);
		amount = asked.get('amount') ?? amount;
	});
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
	let saved: { undo: () => void; words: string; died: boolean; lived: boolean } | undefined = $state();

	/** Everything on the shelf, what is poured for this level first; a dosing pump gives what is liquid. */
	const shelf = $derived(
		bottles
			.flatMap(({ id, profile }) => {
				const its = compositionOf(profile);
				return its.ok ? [{ id, profile, per: its.value.per, own: its.value.main === parameter.id }] : [];
			})
			.sort((a, b) => Number(b.own) - Number(a.own))
	);
	const own = $derived(shelf.filter((b) => b.own));
	const choices = $derived(open === 'dosing' ? shelf.filter((b) => b.per === 'mL') : shelf);
	let bottleId = $state('');
	const bottle = $derived(choices.find((b) => b.id === bottleId));
	/** Dry mix for sea water, by weight: it stands on no shelf. */
	const SALT = 'salt';
	const isSalt = $derived(open === 'dose' && bottleId === SALT);
	/** When it was done; nothing for now. */
	let when: string | null | undefined = $state();

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
		const only = kind === 'dose' && parameter.id === 'salinity' ? SALT : own.length === 1 ? own[0]!.id : '';
		of(own.find((b) => rates[b.id] && kind === 'dosing')?.id ?? only);
		if (!bottle && !isSalt) amount = first[kind]();
		const usual = usualNew[parameter.id];
		newWater = usual === undefined ? '' : typedAs(valueFor(parameter.id, usual), 5);
	}
	/** Poured or dosed of this bottle; what stood in the field was of another. */
	function of(id: string) {
		bottleId = id;
		const rate = rates[id];
		amount = open === 'dosing' && rate ? typedAs(rate, 4) : '';
		if (!bottle && !isSalt && open) amount = first[open]();
	}
	const byWeight = $derived(isSalt || bottle?.per === 'g');
	/** What so much of the bottle, or of salt, does, as this person counts. */
	function pouredOf(taken: typeof bottle): Made {
		const measured = amountIn(
			amount,
			byWeight ? 'mass' : 'volume',
			byWeight ? 'g' : 'mL',
			byWeight && doseUnit() === 'oz' ? 'oz' : undefined
		);
		if (!measured.ok) return { problem: messageOf(measured.problems) };
		const { value } = measured;
		if (value < 0) return { problem: 'must not be less than nothing' };
		const litres = system.netVolumeL;
		if (open === 'dosing' && taken) {
			const events = dosingEvents(taken.profile, value, litres);
			const [main] = events;
			const perDay = main?.kind === 'dosing' ? plus(main.parameter, main.perDay) : '';
			const words = value
				? `${figures(value)} mL of ${taken.profile.name} a day, ${perDay} a day`
				: `the dosing pump of ${taken.profile.name} is off`;
			return { events, words };
		}
		const events = taken ? pourEvents(taken.profile, value, litres) : saltEvents(value, litres);
		const [main] = events;
		if (main?.kind !== 'dose') return { problem: 'cannot be worked out' };
		const healthy = healthyOf(main.parameter) ?? Infinity;
		return {
			events,
			words: `${amountInWords(value, taken?.per ?? 'g')} of ${taken?.profile.name ?? SALT}, ${plus(main.parameter, main.change)}`,
			...(main.change > healthy
				? {
						mind: `more than a healthy day’s ${plus(main.parameter, healthy)}: spread it over ${Math.ceil(main.change / healthy)} days`
					}
				: {})
		};
	}
	/** "calcium +4 mg/L" where the page is of another level. */
	const plus = (of: string, change: number) => {
		const [low, high] = parameterOf(of)?.plausible ?? [0, 0];
		const words = changeInWords(of, change, (low + high) / 2);
		return of === parameter.id ? words : `${nameInSentence(of)} ${words}`;
	};

	type Made = { events: WaterEvent[]; words: string; mind?: string } | { problem: string };
	/** The events that the form stands for, or what is wrong with it. */
	const made: Made | undefined = $derived.by(() => {
		if (!open || amount.trim() === '') return undefined;
		if ((open === 'dose' || open === 'dosing') && (bottle || isSalt)) return pouredOf(bottle);
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
				events: [
					{
						kind: open,
						fraction,
						newWater: { ...usualNew, ...(here === undefined ? {} : { [parameter.id]: here }) }
					}
				],
				words: `water change of ${figures(100 * fraction)} %`
			};
		}
		if (open === 'note')
			return { events: [{ kind: about, text: amount.trim() }], words: `${about}: ${amount.trim()}` };
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
		const named = supplement.trim() ? { supplement: supplement.trim() } : {};
		return open === 'dose'
			? {
					events: [
						{
							kind: open,
							parameter: parameter.id,
							change: value,
							...named,
							...amountOf?.value
						}
					],
					words: `dose of ${shown}`
				}
			: {
					events: [{ kind: open, parameter: parameter.id, perDay: value, ...named }],
					words: `dosing of ${shown} a day`
				};
	});

	function save(event: Event) {
		event.preventDefault();
		if (!made || 'problem' in made || when === null) return;
		const words = when ? `${made.words}, ${dateAndTime(when, system.timeZone)}` : made.words;
		saved = {
			undo: writeDown(system.id, when ? new Date(when) : currentTime(now), made.events, words),
			words,
			died: open === 'note' && about === 'death',
			lived: open === 'note' && LIVED_IN.includes(about) && isEarly(system.phase ?? 'settled')
		};
		open = undefined;
	}
	function undo() {
		if (!saved) return;
		saved.undo();
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
	<span class="text-sm text-faint">Write down:</span>
	{#each ['water-change', 'dose', 'dosing', 'note'] as const as kind (kind)}
		<Button
			size="sm"
			color="alternative"
			aria-expanded={open === kind}
			aria-controls="did"
			onclick={() => choose(kind)}>{LABELS[kind]}</Button
		>
	{/each}
	{#if saved}
		<span class="text-sm" role="status"
			>● Saved: {saved.words}{#if saved.died}. {afterDeathInWords()}
				<a class="text-plum underline" href="/s/{system.id}/bench">To the bench</a>{/if}{#if saved.lived}. Its
				stage is “first months” from now on: what poisons animals is watched.
				<a class="text-plum underline" href="/s/{system.id}/tank">Change the stage</a>{/if}
			<button class="link px-2" onclick={undo}>Undo</button></span
		>
	{/if}
</div>
{#if open}
	<form id="did" class="mt-2 flex flex-wrap items-end gap-3" onsubmit={save}>
		{#if open === 'dose' || (open === 'dosing' && choices.length)}
			<Label>
				Of
				<Select
					class="max-w-56"
					placeholder=""
					value={bottleId}
					onchange={(e) => of(e.currentTarget.value)}
					data-bottle
				>
					{#each choices as b (b.id)}<option value={b.id}>{b.profile.name}</option>{/each}
					{#if open === 'dose'}<option value={SALT}>Salt, dry mix</option>{/if}
					<option value="">Something else</option>
				</Select>
			</Label>
		{/if}
		<Label>
			{open === 'water-change'
				? `How much, % or ${volumeUnit()}`
				: bottle || isSalt
					? `How much, ${byWeight ? (doseUnit() === 'oz' ? 'oz' : 'g') : 'mL'}${open === 'dosing' ? ' a day' : ''}`
					: open === 'dose'
						? `Raises ${nameInSentence(parameter.id)} by, ${formatUnit(parameter.unit)}`
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
		{#if (open === 'dose' || open === 'dosing') && !bottle && !isSalt}
			<Label>
				Supplement, if you like
				<Input class="w-44!" maxlength={200} bind:value={supplement} />
			</Label>
		{/if}
		{#if open === 'dose' && !bottle && !isSalt}
			<Label>
				Poured, {doseUnit()}
				<Input class="figure w-28!" bind:value={pouredText} inputmode="decimal" />
			</Label>
		{/if}
		<When {now} timeZone={system.timeZone} bind:at={when} />
		<Button type="submit" disabled={!made || 'problem' in made || when === null}>Save</Button>
		<p id="did-problem" class="basis-full text-sm" aria-live="polite">
			{#if made && 'problem' in made}<span class="text-brick">▲ {made.problem}</span>
			{:else if made && open !== 'note' && (bottle || isSalt || hasUnit(amount))}<span class="text-faint"
					>● {made.words}</span
				>{#if 'mind' in made}<span class="text-saffron"> ◐ {made.mind}</span>{/if}{/if}
		</p>
	</form>
	{#if open === 'dose' || open === 'dosing'}
		<p class="mt-1 max-w-prose text-sm text-faint">
			Dose slowly into flow, away from animals; never mix calcium and alkalinity concentrates. The label
			rules.
		</p>
	{/if}
{/if}
