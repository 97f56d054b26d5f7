<script lang="ts">
	/** Waters side by side: shares of tap, purified water and mix for what is wanted, and salt for a wanted salinity. */
	import { onMount } from 'svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import { formatUnit } from '$core/quantities';
	import { nameInSentence, titleOf } from '$core/catalogue';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import {
		MOST_COLUMNS,
		TOLD_APART_BY,
		WATERS,
		freshMix,
		litresTyped,
		saltIn,
		sharesIn,
		valueTyped,
		wrongIn,
		type MixDraft
	} from '$lib/ui/adjust/mix-draft';
	import Field from '$lib/ui/forms/Field.svelte';
	import { figures, unitFor } from '$lib/ui/habits';
	import { valueFor, volumeFor, volumeUnit } from '$lib/ui/mine';
	import { amountInWords } from '$lib/ui/words/adjust';
	import { plural } from '$lib/ui/words/plural';
	import Title from '$lib/ui/shell/Title.svelte';
	import Sideways from '$lib/ui/shell/Sideways.svelte';

	let { data } = $props();
	const system = $derived(data.system);

	const unitText = (id: string) => formatUnit(unitFor(id));
	const digits = (parameter: string) => (unitFor(parameter).startsWith('SG') ? 5 : 3);

	// svelte-ignore state_referenced_locally
	let draft = $state(freshMix(data.system));
	onMount(() => {
		const kept = readDraft<MixDraft>(`mix.${system.id}`);
		if (kept) draft = { ...freshMix(data.system), ...kept };
	});
	const keep = () => keepDraft(`mix.${system.id}`, $state.snapshot(draft));
	const shares = $derived(sharesIn(draft));
	const salt = $derived(saltIn(draft));
</script>

<Title of="Mixing waters" />
<p class="text-sm"><a class="link" href="/s/{system.id}/adjust">Adjust</a></p>
<h1>Mixing waters</h1>
<div class="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
	<section aria-label="Waters" class="min-w-0">
		<h2 class="mt-3">What each water has</h2>
		<fieldset class="mt-1 flex flex-wrap gap-x-4 gap-y-1">
			<legend class="text-sm text-faint">Told apart by</legend>
			{#each TOLD_APART_BY as p (p)}
				<Checkbox
					classes={{ div: 'min-h-11' }}
					checked={draft.of.includes(p)}
					disabled={!draft.of.includes(p) && draft.of.length >= MOST_COLUMNS}
					onchange={(e) => {
						draft.of = TOLD_APART_BY.filter((o) =>
							o === p ? e.currentTarget.checked : draft.of.includes(o)
						);
						keep();
					}}>{titleOf(p)}</Checkbox
				>
			{/each}
		</fieldset>
		<Sideways name="What the waters hold" class="mt-2">
			<table class="w-full text-sm" data-testid="waters">
				<caption class="sr-only">What each water holds, and what is wanted</caption>
				<thead>
					<tr class="text-faint">
						<th class="py-1 text-start font-normal" scope="col">Water</th>
						{#each draft.of as p (p)}<th class="py-1 ps-2 text-start font-normal" scope="col"
								>{titleOf(p)}, {unitText(p)}</th
							>{/each}
					</tr>
				</thead>
				<tbody>
					{#each WATERS as w (w.id)}
						<tr class="border-t">
							<th class="py-1.5 text-start font-medium" scope="row"
								><Checkbox
									classes={{ div: 'min-h-11' }}
									checked={draft.with[w.id] ?? false}
									onchange={(e) => {
										draft.with[w.id] = e.currentTarget.checked;
										keep();
									}}>{w.name}</Checkbox
								></th
							>
							{#each draft.of as p (p)}
								{@const wrong = wrongIn(valueTyped(draft.values[w.id]?.[p], p))}
								<td class="py-1.5 ps-2 align-top">
									<Input
										class="figure w-24"
										inputmode="decimal"
										aria-label="{titleOf(p)} of {w.name.toLowerCase()}"
										aria-invalid={wrong ? 'true' : undefined}
										disabled={!draft.with[w.id]}
										value={draft.values[w.id]?.[p] ?? ''}
										oninput={(e) => {
											draft.values[w.id] = {
												...draft.values[w.id],
												[p]: (e.currentTarget as HTMLInputElement).value
											};
											keep();
										}}
									/>
									{#if wrong}<span class="text-brick" role="alert">▲ {wrong}</span>{/if}
								</td>
							{/each}
						</tr>
					{/each}
					<tr class="border-t-2 border-plum">
						<th class="py-1.5 text-start font-semibold" scope="row">Wanted</th>
						{#each draft.of as p (p)}
							{@const wrong = wrongIn(valueTyped(draft.wanted[p], p))}
							<td class="py-1.5 ps-2 align-top">
								<Input
									class="figure w-24"
									inputmode="decimal"
									aria-label="{titleOf(p)} wanted"
									aria-invalid={wrong ? 'true' : undefined}
									value={draft.wanted[p] ?? ''}
									oninput={(e) => {
										draft.wanted[p] = (e.currentTarget as HTMLInputElement).value;
										keep();
									}}
								/>
								{#if wrong}<span class="text-brick" role="alert">▲ {wrong}</span>{/if}
							</td>
						{/each}
					</tr>
				</tbody>
			</table>
		</Sideways>
		<Field
			name="litres"
			label="How much of it, {volumeUnit()}"
			class="w-40"
			value={draft.litres}
			inputmode="decimal"
			problem={wrongIn(litresTyped(draft.litres))}
			oninput={(e) => {
				draft.litres = (e.currentTarget as HTMLInputElement).value;
				keep();
			}}
		/>
		<div class="mt-3" aria-live="polite" data-testid="shares">
			{#if shares && 'missing' in shares}
				<p class="text-saffron">◐ {shares.missing}</p>
			{:else if shares?.found}
				<ul class="space-y-1">
					{#each shares.found.of as { id, share, litres } (id)}
						<li class="flex items-center gap-3">
							<span class="share" style:width="{Math.max(0.3, 12 * share)}rem" aria-hidden="true"></span>
							<span
								><strong class="figure">{figures(volumeFor(litres))} {volumeUnit()}</strong>
								{WATERS.find((w) => w.id === id)?.name.toLowerCase()}
								<span class="text-faint">{Math.round(100 * share)} %</span></span
							>
						</li>
					{/each}
				</ul>
				<p class="mt-2 text-sm">
					It has {Object.entries(shares.found.values)
						.map(
							([p, value]) => `${nameInSentence(p)} ${figures(valueFor(p, value), digits(p))} ${unitText(p)}`
						)
						.join(', ')}.
					<span class="text-faint"
						>The nearest these waters come to what is wanted. Measure the mix before it is used.</span
					>
				</p>
			{:else}
				<p class="text-sm text-faint">
					Type what your waters have and what is wanted of at least one: the shares that come nearest stand
					here.
				</p>
			{/if}
		</div>
	</section>
	<section aria-label="Salt" class="min-w-0 lg:border-l lg:pl-6">
		<h2 class="mt-3">Salt for a wanted salinity</h2>
		{#each [['now', `Salinity now, ${unitText('salinity')}`], ['wanted', `Salinity wanted, ${unitText('salinity')}`], ['litres', `How much water, ${volumeUnit()}`]] as const as [name, label] (name)}
			<Field
				{name}
				{label}
				value={draft.salt[name]}
				inputmode="decimal"
				problem={wrongIn(
					name === 'litres' ? litresTyped(draft.salt.litres) : valueTyped(draft.salt[name], 'salinity')
				)}
				oninput={(e) => {
					draft.salt[name] = (e.currentTarget as HTMLInputElement).value;
					keep();
				}}
			/>
		{/each}
		<div class="mt-3" aria-live="polite" data-testid="salt">
			{#if salt && !salt.ok}
				<p class="text-brick">▲ {salt.problems[0]?.message}</p>
			{:else if salt?.ok}
				{@const s = salt.value}
				{#if s.saltG > 0}
					<p>
						<strong>{amountInWords(s.saltG, 'g')}</strong> of dry mix, {s.fresh
							? 'into purified water, stirred until it is clear; measure before it is used.'
							: 'dissolved beforehand in water you took out.'}
					</p>
				{:else if s.swapL > 0}
					<p>
						Take out <strong>{figures(volumeFor(s.swapL))} {volumeUnit()}</strong> and put in purified water;
						or, where water is missing, top up with {figures(volumeFor(s.topUpL))}
						{volumeUnit()} and take nothing out.
					</p>
				{:else}
					<p>It is there.</p>
				{/if}
				{#if s.days > 1 && !s.fresh}
					<p class="mt-1 text-saffron">
						◐ In a tank with animals over {plural(s.days, 'day')}: they do not bear it faster.
					</p>
				{/if}
			{/if}
		</div>
	</section>
</div>

<style>
	.share {
		height: 1rem;
		border: 1px solid var(--glass);
		border-radius: 0 0 4px 4px;
		background: var(--liquid);
	}
</style>
