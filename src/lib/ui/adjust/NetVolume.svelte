<script lang="ts">
	/** How much water it is, by a pour of known size and two tests. */
	import { invalidateAll } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { compositionOf } from '$core/adjust';
	import { COVERAGE_95 } from '$core/statistics';
	import { formatUnit, isQuantity } from '$core/quantities';
	import { parameterOf, titleOf } from '$core/catalogue';
	import { amountIn, numberTyped } from '$core/quick';
	import { measuredVolume } from '$core/tank';
	import { changeTank } from '$lib/client/commands';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { figures, unitFor } from '$lib/ui/habits';
	import { changeFrom, volumeFor, volumeUnit } from '$lib/ui/mine';
	import { shownLevel } from '$lib/ui/wording';
	import type { Tank } from '$lib/api/systems';
	import type { ShelfSupplement } from '$lib/api/supplements';
	import type { WaterLevel } from './water-level';

	interface Props {
		system: Tank;
		levels: WaterLevel[];
		shelf: ShelfSupplement[];
		/** Of the net volume as it is known, L: standard uncertainty. */
		volumeError: number;
	}
	let { system, levels, shelf, volumeError }: Props = $props();

	const unitText = (id: string) => formatUnit(unitFor(id));
	const pourable = $derived(
		shelf.flatMap(({ id, profile }) => {
			const its = compositionOf(profile);
			return its.ok && parameterOf(its.value.main) ? [{ id, name: profile.name, brings: its.value }] : [];
		})
	);
	let bottle = $state('');
	let poured = $state('');
	let before = $state('');
	let after = $state('');
	let kitError = $state('');
	const chosen = $derived(pourable.find((p) => p.id === bottle) ?? pourable[0]);
	const volume = $derived.by(() => {
		if (!chosen || !poured.trim() || !before.trim() || !after.trim()) return undefined;
		const { main, per, raises, relativeError } = chosen.brings;
		if (!isQuantity(main)) return undefined;
		const own = parameterOf(main)!.unit;
		const amount = amountIn(poured, per === 'g' ? 'mass' : 'volume', per === 'g' ? 'g' : 'mL');
		const level = (text: string) => amountIn(text, main, own, unitFor(main));
		const [low, high] = [level(before), level(after)];
		for (const [name, its] of [
			['poured', amount],
			['before', low],
			['after', high]
		] as const)
			if (!its.ok) return { at: name, says: its.problems[0]?.message ?? '' };
		if (!amount.ok || !low.ok || !high.ok) return undefined;
		const known = levels.find((p) => p.parameter === main);
		const given = Math.abs(changeFrom(main, numberTyped(kitError), low.value)) / COVERAGE_95;
		const u = given > 0 ? given : (known?.now.standardDeviation ?? 0.02 * low.value);
		const added = amount.value * (raises[main] ?? 0);
		if (!(added > 0)) return { at: 'poured', says: 'must be more than nothing' };
		const its = measuredVolume({
			added: { value: added, standardUncertainty: relativeError * added },
			before: { value: low.value, standardUncertainty: u },
			after: { value: high.value, standardUncertainty: u },
			estimate: { value: system.netVolumeL, standardUncertainty: volumeError }
		});
		return its.ok ? { found: its.value } : { at: 'after', says: its.problems[0]?.message ?? '' };
	});
	async function takeVolume() {
		const joined = volume && 'found' in volume ? volume.found?.joined : undefined;
		if (!joined) return;
		const done = await changeTank(system.id, {
			netVolumeL: Number(joined.value.toPrecision(4)),
			netVolumeError: Number(joined.standardUncertainty.toPrecision(3))
		});
		trouble = done.ok ? undefined : done.problems[0]?.message;
		if (done.ok) await invalidateAll();
	}
	let trouble: string | undefined = $state();
	const litres = (l: number) => `${figures(volumeFor(l))} ${volumeUnit()}`;
	/** A volume and its standard uncertainty, L. */
	const known = (l: number, standardUncertainty: number) =>
		`${Object.values(shownLevel(volumeFor(l), volumeFor(COVERAGE_95 * standardUncertainty))).join(' ')} ${volumeUnit()}`;
</script>

<section aria-label="Net volume">
	<h2 class="mt-3">How much water it is</h2>
	<p class="mt-1 text-sm">
		Now {known(system.netVolumeL, volumeError)}. Rock and sand take a tenth to a third of what the glass
		holds. A pour of known size and two tests by the same kit measure it: pour, let it mix for an hour, test
		again.
	</p>
	{#if chosen}
		<div class="grid grid-cols-2 gap-x-4">
			<Label class="mt-3">
				What was poured
				<Select placeholder="" value={chosen.id} onchange={(e) => (bottle = e.currentTarget.value)}>
					{#each pourable as p (p.id)}<option value={p.id}>{p.name}</option>{/each}
				</Select>
			</Label>
			<Field
				name="poured"
				label="How much, {chosen.brings.per}"
				value={poured}
				inputmode="decimal"
				problem={volume && 'at' in volume && volume.at === 'poured' ? volume.says : undefined}
				oninput={(e) => (poured = (e.currentTarget as HTMLInputElement).value)}
			/>
			<Field
				name="before"
				label="{titleOf(chosen.brings.main)} before, {unitText(chosen.brings.main)}"
				value={before}
				inputmode="decimal"
				problem={volume && 'at' in volume && volume.at === 'before' ? volume.says : undefined}
				oninput={(e) => (before = (e.currentTarget as HTMLInputElement).value)}
			/>
			<Field
				name="after"
				label="and after"
				value={after}
				inputmode="decimal"
				problem={volume && 'at' in volume && volume.at === 'after' ? volume.says : undefined}
				oninput={(e) => (after = (e.currentTarget as HTMLInputElement).value)}
			/>
			<Field
				name="kit"
				label="One test is right within ±"
				value={kitError}
				inputmode="decimal"
				hint="left empty: as your tests were"
				oninput={(e) => (kitError = (e.currentTarget as HTMLInputElement).value)}
			/>
		</div>
		{#if volume && 'found' in volume && volume.found}
			{@const { measured, joined } = volume.found}
			<p class="mt-2" data-testid="volume">
				The pour alone says {litres(measured.value)}, {measured.interval[1] === null
					? `at least ${litres(measured.interval[0])}: the rise may be noise, pour more`
					: `${figures(volumeFor(measured.interval[0]))} to ${litres(measured.interval[1])}`}.
				{#if joined}With what was known: <strong>{known(joined.value, joined.standardUncertainty)}</strong
					>.{/if}
			</p>
			{#if joined}<Button class="mt-2" onclick={takeVolume}>Use {litres(joined.value)}</Button>{/if}
			<Trouble says={trouble} />
		{/if}
	{:else}
		<p class="mt-2 text-sm">
			<a class="text-plum underline" href="/s/{system.id}/shelf/pour">Add something to pour first</a>
		</p>
	{/if}
</section>
