<script lang="ts">
	/** What a person counts in, their language and their hour, with what that looks like beneath. */
	import { parametersWith, titleOf } from '$core/catalogue';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { UNITS, formatUnit, valueIn } from '$core/quantities';
	import type { Problem } from '$core/base';
	import type { Habits, Units } from '$lib/api/habits';
	import { saveHabits } from '$lib/client/commands';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { isLanguage, usualUnits } from '$lib/ui/habits';

	interface Props {
		/** What was chosen so far, or what is offered first. */
		start: Habits;
		now: string;
		timeZone: string;
		/** What the button says. */
		go: string;
		/** Where the page is about nothing else, one key accepts. */
		autofocus?: boolean;
		ondone: () => void;
	}
	let { start, now, timeZone, go, autofocus = false, ondone }: Props = $props();

	// svelte-ignore state_referenced_locally
	let habits: Habits = $state.raw(start);
	let problems: Problem[] = $state.raw([]);
	let busy = $state(false);
	const unit = (part: Partial<Units>) => (habits = { ...habits, units: { ...habits.units, ...part } });
	const units = $derived(habits.units ?? {});

	/** Languages whose way of writing numbers and dates is offered; any other tag may be typed by the API. */
	const TAGS =
		'en-GB en-US en-AU cs-CZ da-DK de-DE el-GR es-ES es-MX fi-FI fr-FR hu-HU it-IT ja-JP ko-KR nb-NO nl-NL pl-PL pt-BR pt-PT ro-RO sv-SE tr-TR uk-UA zh-CN'.split(
			' '
		);
	const tag = $derived(habits.language && isLanguage(habits.language) ? habits.language : 'en-GB');
	const tags = $derived(TAGS.includes(tag) ? TAGS : [tag, ...TAGS]);
	const names = new Intl.DisplayNames('en', { type: 'language' });

	const CHOICES: { key: keyof Units; title: string; options: readonly string[] }[] = [
		...parametersWith('unit-chosen').map((id) => ({
			key: id,
			title: titleOf(id),
			options: UNITS[id].map((u) => u.name)
		})),
		{ key: 'volume', title: 'Volumes', options: ['L', 'US gal', 'UK gal'] },
		{ key: 'length', title: 'Lengths', options: ['cm', 'in'] },
		{ key: 'dose', title: 'Doses', options: ['mL', 'g', 'oz'] }
	];
	const chosen = (c: (typeof CHOICES)[number]): string => units[c.key] ?? c.options[0]!;
	/** Another language: what stood as people of the one before count goes on as people of this one do; what was chosen stays. */
	function speak(language: string) {
		const [before, after] = [usualUnits(tag), usualUnits(language)];
		const moved = CHOICES.filter((c) => chosen(c) === (before[c.key] ?? c.options[0]));
		const anew = Object.fromEntries(moved.map((c) => [c.key, after[c.key] ?? c.options[0]]));
		habits = { ...habits, language, units: { ...habits.units, ...anew } };
	}
	/** What numbers and dates will look like. */
	const sample = $derived.by(() => {
		const number = (x: number, most: number) =>
			new Intl.NumberFormat(tag, { maximumSignificantDigits: most, useGrouping: false }).format(x);
		const of = (key: keyof Units, value: number, most: number, mostOfGravity = most) => {
			const c = CHOICES.find((choice) => choice.key === key)!;
			const digits = chosen(c).startsWith('SG') ? mostOfGravity : most;
			return `${number(valueIn(key, value, c.options[0]!, chosen(c)), digits)} ${formatUnit(chosen(c))}`;
		};
		const moment = new Intl.DateTimeFormat(tag, { dateStyle: 'medium', timeStyle: 'short', timeZone });
		return [
			of('alkalinity', 8.1, 3),
			of('salinity', 35, 3, 5),
			of('temperature', 25, 3),
			moment.format(new Date(now))
		].join(' · ');
	});

	async function save(event: Event) {
		event.preventDefault();
		busy = true;
		const done = await saveHabits({ ...habits, language: tag });
		busy = false;
		problems = done.ok ? [] : done.problems;
		if (done.ok) ondone();
	}
</script>

<form onsubmit={save} data-habits>
	<div class="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-3">
		<Label class="col-span-2">
			Numbers and dates as in
			<Select class="w-full" placeholder="" value={tag} onchange={(e) => speak(e.currentTarget.value)}>
				{#each tags as t (t)}<option value={t}>{names.of(t)}</option>{/each}
			</Select>
		</Label>
		<Label>
			Week begins on
			<Select
				class="w-full"
				placeholder=""
				value={String(habits.weekStart ?? '')}
				onchange={(e) => {
					const { weekStart: _before, ...rest } = habits;
					habits = {
						...rest,
						...(e.currentTarget.value ? { weekStart: Number(e.currentTarget.value) } : {})
					};
				}}
			>
				<option value="">as usual there</option>
				<option value="1">Monday</option>
				<option value="6">Saturday</option>
				<option value="7">Sunday</option>
			</Select>
		</Label>
		{#each CHOICES as c (c.key)}
			<Label>
				{c.title}
				<Select
					class="w-full"
					placeholder=""
					value={chosen(c)}
					onchange={(e) => unit({ [c.key]: e.currentTarget.value })}
				>
					{#each c.options as option (option)}<option value={option}>{formatUnit(option)}</option>{/each}
				</Select>
			</Label>
		{/each}
		<Label>
			Reminders at
			<Input
				type="time"
				class="w-full"
				value={habits.remindAt ?? '19:00'}
				onchange={(e) =>
					(habits = { ...habits, remindAt: (e.currentTarget as HTMLInputElement).value || '19:00' })}
			/>
		</Label>
	</div>
	<p class="figure mt-3 rounded-lg bg-plum-wash px-3 py-2 text-sm" aria-live="polite" data-testid="sample">
		{sample}
	</p>
	<p class="mt-1 text-sm text-faint">
		What is stored stays as it is. In a field any unit may stand behind the number: 50 gal, 78 F, 1.025.
	</p>
	<Trouble says={problems[0] && `${problems[0].path} ${problems[0].message}`} />
	<Button type="submit" class="mt-3 min-h-14 px-6 text-lg max-sm:w-full" disabled={busy} {autofocus}
		>{go}</Button
	>
</form>
