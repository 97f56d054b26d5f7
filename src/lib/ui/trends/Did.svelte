<script lang="ts">
	/** What was done to the water, written down in two taps where it is looked at. */
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { good, type Outcome, type Problem } from '$core/problems';
	import { formatUnit, type Parameter } from '$core/quantities';
	import { amountIn, changeIn } from '$core/quick';
	import type { WaterEvent } from '$core/trend';
	import { savingEvent, voiding } from '$lib/client/commands';
	import type { SaveEvent } from '$lib/api/events';
	import { currentTime } from '$lib/ui/clock';
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

	type Kind = 'water-change' | 'dose' | 'dosing' | 'note';
	const NOTES = ['note', 'feeding', 'livestock', 'death', 'equipment'] as const;
	let about: (typeof NOTES)[number] = $state('note');
	let open: Kind | undefined = $state();
	let amount = $state('');
	let newWater = $state('');
	let supplement = $state('');
	let millilitres = $state('');
	let saved: { id: string; words: string } | undefined = $state();

	const hasUnit = (text: string) => /[a-z]/i.test(text);
	const messageOf = (problems: Problem[]) => problems[0]?.message ?? 'is not a number';
	/** Of a change: a share of the tank from a share or from how much was changed. */
	const shareOf = (text: string): Outcome<number> => {
		const percent = /%\s*$/.test(text) || !hasUnit(text);
		const found = percent ? amountIn(text.replace('%', ''), 'volume', 'L') : amountIn(text, 'volume', 'L');
		return found.ok ? good(found.value / (percent ? 100 : system.netVolumeL)) : found;
	};
	const first: Record<Kind, () => string> = {
		'water-change': () => '10 %',
		dose: () => '',
		dosing: () => (dosing ? String(dosing) : ''),
		note: () => ''
	};
	function choose(kind: Kind) {
		open = open === kind ? undefined : kind;
		amount = first[kind]();
		newWater = usualNew[parameter.id] === undefined ? '' : String(usualNew[parameter.id]);
	}
	/** The event that the form stands for, or what is wrong with it. */
	const made: { event: WaterEvent; words: string } | { problem: string } | undefined = $derived.by(() => {
		if (!open || amount.trim() === '') return undefined;
		if (open === 'water-change') {
			const share = shareOf(amount);
			if (!share.ok || share.value <= 0)
				return { problem: 'write a share or a volume, for example 10 %, 38 L or 10 gal' };
			const fraction = share.value;
			if (fraction > 1) return { problem: `is more than the tank's ${system.netVolumeL} L` };
			const fresh = newWater.trim() === '' ? undefined : amountIn(newWater, parameter.id, parameter.unit);
			if (fresh && !fresh.ok) return { problem: `the new water: ${messageOf(fresh.problems)}` };
			const here = fresh?.value;
			return {
				event: {
					kind: open,
					fraction,
					newWater: { ...usualNew, ...(here === undefined ? {} : { [parameter.id]: here }) }
				},
				words: `water change of ${Math.round(1000 * fraction) / 10} %`
			};
		}
		if (open === 'note')
			return { event: { kind: about, text: amount.trim() }, words: `${about}: ${amount.trim()}` };
		const change = changeIn(amount, parameter.id, parameter.unit);
		if (!change.ok) return { problem: messageOf(change.problems) };
		const value = Number(change.value.toPrecision(hasUnit(amount) ? 4 : 12));
		const poured = millilitres.trim() === '' ? undefined : amountIn(millilitres, 'volume', 'mL');
		if (poured && !poured.ok) return { problem: `how much was poured: ${messageOf(poured.problems)}` };
		const amountMl = poured?.value;
		const of = supplement.trim() ? { supplement: supplement.trim() } : {};
		return open === 'dose'
			? {
					event: {
						kind: open,
						parameter: parameter.id,
						change: value,
						...of,
						...(amountMl === undefined ? {} : { amountMl })
					},
					words: `dose of ${value} ${formatUnit(parameter.unit)}`
				}
			: {
					event: { kind: open, parameter: parameter.id, perDay: value, ...of },
					words: `dosing of ${value} ${formatUnit(parameter.unit)} a day`
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
		post(voiding('events', saved.id, 'taken back right after saving', `taking back the ${saved.words}`));
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
				? 'How much, % or L'
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
				Poured, mL
				<Input class="figure w-28!" bind:value={millilitres} inputmode="decimal" />
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
