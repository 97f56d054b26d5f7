<script lang="ts">
	/** Without a reference: the same water with and without a known amount, by the same kit; how much of it is found. */
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { reference } from '$core/quality';
	import { formatUnit, isQuantity } from '$core/quantities';
	import { amountIn, plainNumber } from '$core/quick';
	import { COVERAGE_95 } from '$core/statistics';
	import type { KitChecks } from '$lib/api/kit-checks';
	import Field from '$lib/ui/forms/Field.svelte';
	import { changeFor } from '$lib/ui/mine';
	import { unitFor } from '$lib/ui/habits';
	import { additionInWords } from '$lib/ui/words/checks';

	interface Props {
		parameter: string;
		kits: KitChecks['kits'];
		now: string;
	}
	let { parameter, kits, now }: Props = $props();

	let chosen: string | undefined = $state();
	const kit = $derived(kits.find((k) => k.id === chosen) ?? kits[0]);
	let typed = $state({ plain: '', spiked: '', added: '' });
	const FIELDS = $derived([
		['plain', 'Read without it'],
		['spiked', 'Read with it'],
		['added', `Added, ${formatUnit(unitFor(parameter))}`]
	] as const);
	const number = (text: string) => {
		const its = isQuantity(parameter) ? amountIn(text, parameter, unitFor(parameter)) : plainNumber(text);
		return its.ok ? its.value : NaN;
	};
	/** Drawn by a syringe of a hundredth, half-width of a 95 % interval as a share. */
	const DRAWN = 0.02;
	const result = $derived.by(() => {
		const [plain, spiked, added] = [typed.plain, typed.spiked, typed.added].map(number);
		if (plain === undefined || spiked === undefined || !(added! > 0) || !(plain >= 0) || !(spiked >= 0))
			return undefined;
		const { scatter, standardUncertainty = 0 } = kit?.card ?? {};
		// What stays with the kit falls out of the difference; where its scatter is not known, all of its error is taken.
		const own = scatter && scatter.pairs > 2 ? scatter.value : standardUncertainty;
		const repeatability = Math.abs(changeFor(parameter, own, plain)) || 1e-9;
		const made = reference({
			addition: {
				plain: [{ at: now, value: plain, repeatability }],
				spiked: [{ at: now, value: spiked, repeatability }],
				added: { value: added!, standardUncertainty: (DRAWN / COVERAGE_95) * added! }
			}
		});
		return made.ok ? made.value : undefined;
	});
</script>

<details class="mt-4">
	<summary class="min-h-11 cursor-pointer py-2.5">No reference at hand? Add a known amount</summary>
	<p class="text-sm text-faint">
		Test the water, then the same water with a known amount stirred in (a litre and a syringe of your
		solution). What the kit finds of it says whether its scale is right; what it is off by everywhere alike
		stays hidden.
	</p>
	<div class="mt-1 grid grid-cols-2 gap-x-4">
		<Label class="text-sm">
			Kit
			<Select placeholder="" value={kit?.id} onchange={(e) => (chosen = e.currentTarget.value)}>
				{#each kits as k (k.id)}<option value={k.id}>{k.name}</option>{/each}
			</Select>
		</Label>
		{#each FIELDS as [name, label] (name)}
			<Field
				{name}
				{label}
				inputmode="decimal"
				value={typed[name]}
				problem={typed[name].trim() && !(number(typed[name]) >= 0) ? 'is not a number' : undefined}
				oninput={(e) => (typed[name] = (e.currentTarget as HTMLInputElement).value)}
			/>
		{/each}
	</div>
	{#if result}<p class="mt-2" role="status" data-testid="recovery">{additionInWords(result)}</p>{/if}
</details>
