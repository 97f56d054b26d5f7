<script lang="ts">
	/** How much water it is, by a pour of known size and two tests. */
	import { invalidateAll } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { COVERAGE_95 } from '$core/statistics';
	import { formatUnit } from '$core/quantities';
	import { titleOf } from '$core/catalogue';
	import { changeTank } from '$lib/client/commands';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { figures, unitFor } from '$lib/ui/habits';
	import { volumeFor, volumeUnit } from '$lib/ui/mine';
	import { shownLevel } from '$lib/ui/wording';
	import type { Tank } from '$lib/api/systems';
	import type { ShelfSupplement } from '$lib/api/supplements';
	import { pourableOf } from './pour-draft';
	import { volumeOf, type VolumeDraft } from './volume-draft';
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
	const pourable = $derived(pourableOf(shelf));
	let bottle = $state('');
	const typed: VolumeDraft = $state({ poured: '', before: '', after: '', kit: '' });
	const chosen = $derived(pourable.find((p) => p.id === bottle) ?? pourable[0]);
	const volume = $derived(
		chosen && volumeOf(chosen, typed, levels, { value: system.netVolumeL, standardUncertainty: volumeError })
	);
	const found = $derived(volume && 'measured' in volume ? volume : undefined);
	const problemAt = (field: keyof VolumeDraft) =>
		volume && 'at' in volume && volume.at === field ? volume.says : undefined;
	async function takeVolume() {
		const joined = found?.joined;
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
					{#each pourable as p (p.id)}<option value={p.id}>{p.profile.name}</option>{/each}
				</Select>
			</Label>
			<Field
				name="poured"
				label="How much, {chosen.brings.per}"
				value={typed.poured}
				inputmode="decimal"
				problem={problemAt('poured')}
				oninput={(e) => (typed.poured = (e.currentTarget as HTMLInputElement).value)}
			/>
			<Field
				name="before"
				label="{titleOf(chosen.main)} before, {unitText(chosen.main)}"
				value={typed.before}
				inputmode="decimal"
				problem={problemAt('before')}
				oninput={(e) => (typed.before = (e.currentTarget as HTMLInputElement).value)}
			/>
			<Field
				name="after"
				label="and after"
				value={typed.after}
				inputmode="decimal"
				problem={problemAt('after')}
				oninput={(e) => (typed.after = (e.currentTarget as HTMLInputElement).value)}
			/>
			<Field
				name="kit"
				label="One test is right within ±"
				value={typed.kit}
				inputmode="decimal"
				hint="left empty: as your newest test"
				problem={problemAt('kit')}
				oninput={(e) => (typed.kit = (e.currentTarget as HTMLInputElement).value)}
			/>
		</div>
		{#if found}
			{@const { measured, joined } = found}
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
