<script lang="ts">
	/** Something to pour: by its label's sentence, by a recipe of one's own, or as a pure salt. */
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { PURE_SALTS, compositionOf, isDamp, labelIn, saltOf, weighed, type Supplement } from '$core/adjust';
	import type { Outcome, Problem } from '$core/base';
	import { formatUnit } from '$core/quantities';
	import { PARAMETERS, nameInSentence, parameterOf } from '$core/catalogue';
	import { amountIn, numberTyped, plainNumber } from '$core/quick';
	import { below } from '$lib/client/api';
	import { saveSupplement } from '$lib/client/commands';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { figures, typedAs } from '$lib/ui/habits';
	import { volumeFor, volumeUnit } from '$lib/ui/mine';
	import { cautionInWords, changeInWords } from '$lib/ui/words/adjust';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();

	type Way = 'label' | 'recipe' | 'powder' | 'saturated';
	interface Draft {
		id: string;
		way: Way;
		name: string;
		label: string;
		of: string;
		salt: string;
		grams: string;
		litres: string;
		purity: string;
		scale: string;
		ph: 'raises' | 'lowers' | 'neutral';
		amount: string;
		opened: string;
		price: string;
		spoon: string;
	}
	const WAYS: { id: Way; title: string; hint: string }[] = [
		{ id: 'label', title: 'By its label', hint: 'a bottle or bag that says what it raises' },
		{ id: 'recipe', title: 'Mixed at home', hint: 'a pure salt in purified water' },
		{ id: 'powder', title: 'Pure salt', hint: 'by weight or by the level spoon' },
		{ id: 'saturated', title: 'Lime water', hint: 'as much as dissolves, from above the sediment' }
	];
	const fresh = (): Draft => ({
		id: uuid(),
		way: 'label',
		name: '',
		label: '',
		of: '',
		salt: 'NaHCO3',
		grams: '',
		litres: '1',
		purity: '',
		scale: '0.1',
		ph: 'neutral',
		amount: '',
		opened: data.now.slice(0, 10),
		price: '',
		spoon: ''
	});
	/** A bottle of the shelf as it was typed. */
	function known({ id, profile, amount, opened }: NonNullable<typeof data.bottle>): Draft {
		const { composition, kind, pricePerUnit } = profile;
		const first = 'recipe' in composition ? [composition.recipe].flat()[0] : undefined;
		const label = 'label' in composition ? composition.label : undefined;
		const write = (x: number | undefined) => (x === undefined ? '' : typedAs(x));
		return {
			...fresh(),
			id,
			name: profile.name,
			way: label ? 'label' : kind === 'solution' ? 'recipe' : kind,
			label: label
				? (label.sentence ??
					`${typedAs(label.amount)} ${label.unit} in ${typedAs(volumeFor(label.waterL))} ${volumeUnit()} raises ${nameInSentence(label.raises.parameter)} by ${typedAs(label.raises.value)} ${label.raises.unit}`)
				: '',
			of: label?.raises.parameter ?? '',
			salt: first?.salt ?? 'NaHCO3',
			grams: write(first?.gramsPerL),
			purity: write(first?.purity === undefined ? undefined : 100 * first.purity),
			ph: profile.ph ?? 'neutral',
			amount: write(amount),
			opened: opened ?? '',
			price: pricePerUnit === undefined || amount === undefined ? '' : typedAs(pricePerUnit * amount, 4),
			spoon: write(profile.spoonG)
		};
	}
	// svelte-ignore state_referenced_locally
	let draft = $state(data.bottle ? known(data.bottle) : fresh());
	onMount(() => {
		if (!data.bottle) draft = readDraft<Draft>('pour') ?? draft;
	});
	const set = (change: Partial<Draft>) => {
		draft = { ...draft, ...change };
		if (!data.bottle) keepDraft('pour', draft);
	};
	let problems: Problem[] = $state([]);
	let saving = $state(false);

	const LIME = 'Ca(OH)2';
	const mass = (text: string) => amountIn(text, 'mass', 'g');
	const label = $derived(labelIn(draft.label, draft.of || undefined));
	/** How a label is written, as this person counts. */
	const example = `Write it like this: 1 mL in ${volumeUnit() === 'L' ? 100 : 25} ${volumeUnit()} raises alkalinity by ${changeInWords('alkalinity', 0.25, 8).replace('+', '')}`;
	const salt = $derived(draft.way === 'saturated' ? LIME : draft.salt);
	/** What is wrong with what was typed, or what is asked for where nothing was. */
	const whyNot = (text: string, its: Outcome<number>, otherwise: string) =>
		text.trim() && !its.ok ? (its.problems[0]?.message ?? otherwise) : otherwise;
	const damp = $derived.by(() => {
		const its = saltOf(salt);
		return its.ok && isDamp(its.value);
	});
	/** What was typed, as far as it is one. */
	const made = $derived.by((): { profile?: Supplement; at?: string; message?: string } => {
		const base = {
			format: 'tevrik.supplement/1' as const,
			id: draft.id,
			name: draft.name.trim() || (PURE_SALTS.find((s) => s.formula === salt)?.title ?? 'Bottle')
		};
		const said = draft.purity.trim();
		const purity = said ? { purity: numberTyped(said) / 100 } : {};
		if (draft.way === 'label') {
			if (!label.ok) return { at: 'label', message: label.problems[0]!.message };
			const ph = draft.ph === 'neutral' ? {} : { ph: draft.ph };
			return {
				profile: {
					...base,
					kind: label.value.unit === 'g' ? 'powder' : 'solution',
					composition: { label: { ...label.value, sentence: draft.label.trim() } },
					...ph
				}
			};
		}
		if (draft.way === 'saturated')
			return { profile: { ...base, kind: 'saturated', composition: { recipe: { salt } } } };
		if (said && !(purity.purity! > 0 && purity.purity! <= 1))
			return { at: 'purity', message: 'is a percentage up to 100' };
		if (draft.way === 'powder')
			return { profile: { ...base, kind: 'powder', composition: { recipe: { salt, ...purity } } } };
		const grams = mass(draft.grams);
		const litres = amountIn(draft.litres, 'volume', 'L');
		if (!grams.ok || !(grams.value > 0))
			return { at: 'grams', message: whyNot(draft.grams, grams, 'is how much you weighed, such as 80 g') };
		if (!litres.ok || !(litres.value > 0))
			return {
				at: 'litres',
				message: whyNot(draft.litres, litres, 'is how much it was filled up to, such as 1 L')
			};
		const step = mass(draft.scale);
		const { gramsPerL, relativeError } = weighed(grams.value, litres.value, step.ok ? step.value : undefined);
		return {
			profile: {
				...base,
				kind: 'solution',
				composition: { recipe: { salt, gramsPerL, ...purity } },
				relativeError
			}
		};
	});
	const read = $derived(made.profile && compositionOf(made.profile));
	const per = $derived(read?.ok ? read.value.per : 'mL');
	/** What it does to this tank. */
	const does = $derived.by(() => {
		if (!read?.ok) return undefined;
		const { main, raises } = read.value;
		const change = (raises[main] ?? 0) / data.system.netVolumeL;
		const own = parameterOf(main);
		const amount = change < 0.01 * (own?.plausible[1] ?? 1) ? 10 : 1;
		return `${amount} ${per} in your ${figures(volumeFor(data.system.netVolumeL))} ${volumeUnit()} ${amount === 1 ? 'raises' : 'raise'} ${nameInSentence(main)} by ${changeInWords(main, amount * change, own?.plausible[0] ?? 0).replace('+', '')}`;
	});
	const problemAt = (name: string) =>
		problems.find((p) => p.path.endsWith(`/${name}`))?.message ??
		(made.at === name && touched.has(name) ? made.message : undefined);
	let touched = $state.raw(new Set<string>());
	const touch = (name: string) => (touched = new Set([...touched, name]));
	const input = (name: keyof Draft) => (event: Event) => {
		touch(name);
		set({ [name]: (event.currentTarget as HTMLInputElement).value });
	};

	async function save(event: Event) {
		event.preventDefault();
		if (!made.profile) return void (made.at && touch(made.at));
		const amount = draft.amount.trim()
			? amountIn(draft.amount, per === 'g' ? 'mass' : 'volume', per === 'g' ? 'g' : 'mL')
			: undefined;
		if (amount && !amount.ok)
			return void (problems = [{ path: '/amount', message: amount.problems[0]!.message }]);
		const spoon = draft.spoon.trim() ? mass(draft.spoon) : undefined;
		if (spoon && !spoon.ok)
			return void (problems = [{ path: '/spoon', message: spoon.problems[0]!.message }]);
		const cost = draft.price.trim() ? plainNumber(draft.price) : undefined;
		if (cost && !(cost.ok && cost.value >= 0))
			return void (problems = [
				{ path: '/price', message: cost.ok ? 'is a number' : (cost.problems[0]?.message ?? '') }
			]);
		const price = cost?.ok ? cost.value : undefined;
		saving = true;
		const profile = {
			...made.profile,
			...(spoon?.ok && per === 'g' ? { spoonG: spoon.value } : {}),
			...(price !== undefined && amount?.ok && amount.value > 0 ? { pricePerUnit: price / amount.value } : {})
		};
		const saved = await saveSupplement(draft.id, {
			profile,
			...(amount?.ok ? { amount: amount.value } : {}),
			...(draft.opened ? { opened: draft.opened } : {})
		});
		saving = false;
		if (!saved.ok) return void (problems = below('/profile', saved.problems));
		keepDraft('pour', undefined);
		await goto(`/s/${data.system.id}/shelf#pour`, { invalidateAll: true });
	}
</script>

<Title of={data.bottle ? [data.bottle.profile.name, 'Shelf'] : 'Something to pour'} />
<h1>{data.bottle ? data.bottle.profile.name : 'Something to pour'}</h1>
<form class="mt-2 max-w-3xl" onsubmit={save}>
	<div
		role="radiogroup"
		aria-label="How its strength is known"
		class="grid gap-2 sm:grid-cols-2 lg:grid-cols-4"
	>
		{#each WAYS as way (way.id)}
			<button
				type="button"
				role="radio"
				aria-checked={draft.way === way.id}
				class="way"
				onclick={() => set({ way: way.id })}
			>
				<span class="font-semibold">{way.title}</span>
				<span class="text-sm leading-snug text-faint">{way.hint}</span>
			</button>
		{/each}
	</div>
	<Field
		name="name"
		label="What you call it"
		value={draft.name}
		maxlength={120}
		oninput={input('name')}
		problem={problemAt('name')}
	/>
	{#if draft.way === 'label'}
		<Field
			name="label"
			label="What the label says"
			value={draft.label}
			maxlength={200}
			oninput={input('label')}
			problem={problemAt('label') ? `${problemAt('label')}. ${example}` : problemAt('unit')}
			hint={label.ok
				? `Understood: ${figures(label.value.amount)} ${label.value.unit} in ${figures(volumeFor(label.value.waterL))} ${volumeUnit()} raises ${nameInSentence(label.value.raises.parameter)} by ${figures(label.value.raises.value)} ${formatUnit(label.value.raises.unit)}`
				: example}
		/>
		<div class="grid gap-x-4 sm:grid-cols-2">
			<Label class="mt-3">
				Raises, where the sentence does not say
				<Select placeholder="" value={draft.of} onchange={(e) => set({ of: e.currentTarget.value })}>
					<option value="">as the sentence says</option>
					{#each PARAMETERS.filter((p) => p.traits.includes('dosable')) as p (p.id)}<option value={p.id}
							>{p.title}</option
						>{/each}
				</Select>
			</Label>
			<Label class="mt-3">
				What it does to pH, by its label
				<Select
					placeholder=""
					value={draft.ph}
					onchange={(e) => set({ ph: e.currentTarget.value as Draft['ph'] })}
				>
					<option value="neutral">nothing said</option>
					<option value="raises">raises it</option>
					<option value="lowers">lowers it</option>
				</Select>
			</Label>
		</div>
	{:else if draft.way !== 'saturated'}
		<Label class="mt-3">
			Salt
			<Select placeholder="" value={draft.salt} onchange={(e) => set({ salt: e.currentTarget.value })}>
				{#each PURE_SALTS.filter((s) => s.formula !== LIME) as s (s.formula)}<option value={s.formula}
						>{s.title}, {s.formula.replace('.', ' · ')}</option
					>{/each}
			</Select>
		</Label>
		<div class="grid gap-x-4 sm:grid-cols-4">
			{#if draft.way === 'recipe'}
				<Field
					name="grams"
					label="Weighed, g"
					value={draft.grams}
					inputmode="decimal"
					oninput={input('grams')}
					problem={problemAt('grams') ?? problemAt('gramsPerL')}
				/>
				<Field
					name="litres"
					label="Filled up to, {volumeUnit()}"
					value={draft.litres}
					inputmode="decimal"
					oninput={input('litres')}
					problem={problemAt('litres')}
				/>
				<Field
					name="scale"
					label="Scale’s step, g"
					value={draft.scale}
					inputmode="decimal"
					oninput={input('scale')}
				/>
			{/if}
			<Field
				name="purity"
				label="Purity, %"
				hint={damp
					? 'by its label; left empty, 90 to 100 %: it draws water from the air'
					: 'by its label, if it says one'}
				value={draft.purity}
				inputmode="decimal"
				oninput={input('purity')}
				problem={problemAt('purity')}
			/>
		</div>
	{/if}
	{#if does}<p class="mt-2" data-testid="does">{does}.</p>{/if}
	{#if read && !read.ok}<Trouble says={read.problems[0]?.message ?? ''} />{/if}
	<div class="grid gap-x-4 sm:grid-cols-4">
		<Field
			name="amount"
			label="In it when opened, {per}"
			value={draft.amount}
			inputmode="decimal"
			oninput={input('amount')}
			problem={problemAt('amount')}
			hint="for what is left"
		/>
		<Field name="opened" label="Opened" type="date" value={draft.opened} oninput={input('opened')} />
		<Field
			name="price"
			label="Price of all of it"
			value={draft.price}
			inputmode="decimal"
			oninput={input('price')}
			problem={problemAt('price')}
		/>
		{#if per === 'g'}
			<Field
				name="spoon"
				label="A level spoon, g"
				value={draft.spoon}
				inputmode="decimal"
				oninput={input('spoon')}
				problem={problemAt('spoon')}
				hint="weigh ten, take a tenth"
			/>
		{/if}
	</div>
	{#if read?.ok && read.value.cautions.length}
		<ul class="mt-2 list-disc ps-5 text-sm text-faint">
			{#each read.value.cautions as caution (caution)}<li>{cautionInWords(caution)}</li>{/each}
		</ul>
	{/if}
	{#each problems.filter((p) => !p.path || p.path === '/') as problem (problem.message)}<Trouble
			says={problem.message}
		/>{/each}
	<div class="mt-4 flex flex-wrap gap-2">
		<Button type="submit" class="min-h-14 px-6 text-lg" disabled={saving}>Save</Button>
		<Button color="alternative" href="/s/{data.system.id}/shelf#pour">Cancel</Button>
	</div>
</form>

<style>
	.way {
		display: flex;
		flex-direction: column;
		min-height: 3.5rem;
		padding: 0.5rem 0.75rem;
		border: 1px solid var(--rule);
		border-radius: 10px;
		text-align: start;
	}
	.way:hover {
		background: var(--plum-wash);
	}
	.way[aria-checked='true'] {
		border-color: var(--plum);
		box-shadow: inset 0 0 0 1px var(--plum);
	}
</style>
