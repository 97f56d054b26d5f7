<script lang="ts">
	/** What a picture says: the reading with its error, how alike it looks, what is wrong, and what the eye had said. */
	import type { ColourResult } from '$core/colour';
	import type { ShadeByEye } from '$core/instruments';
	import type { PlungerResult } from '$core/picture';
	import { formatUnit } from '$core/quantities';
	import { COVERAGE_95 } from '$core/statistics';
	import { figures, numeral } from '$lib/ui/habits';
	import { distanceInWords, flagsInWords, plungerFlags, shadeInWords } from '$lib/ui/words/eye';

	interface Props {
		/** Of a card: what it says, its patches' values and their unit, and the eye's own word. */
		shade?: { result: ColourResult; values: number[]; unit: string; eye: ShadeByEye | undefined } | undefined;
		/** Of a syringe: what it says, and how much it holds, mL. */
		plunger?: { result: PlungerResult; fillMl: number } | undefined;
	}
	let { shade, plunger }: Props = $props();

	const said = $derived(shade ? shadeInWords(shade.result, shade.values) : '');
	const flags = $derived(
		shade ? flagsInWords(shade.result, shade.values) : plunger ? plungerFlags(plunger.result) : []
	);
</script>

{#if shade}
	{@const { result, values, unit, eye } = shade}
	<p class="text-2xl font-semibold" data-testid="seen">{said.charAt(0).toUpperCase() + said.slice(1)}</p>
	{#if result.value !== null && result.standardUncertainty !== null}
		<p>
			<span class="figure text-xl"
				>{figures(result.value, 3)}
				<span class="text-faint">± {figures(COVERAGE_95 * result.standardUncertainty, 2)}</span></span
			>
			{formatUnit(unit)}, on the card
		</p>
	{/if}
	{#if result.distance !== null && result.position}
		<p class="text-sm text-faint">ΔE {numeral(result.distance, 1)}: {distanceInWords(result.distance)}.</p>
	{/if}
	{#if eye}<p class="mt-1 text-sm" data-testid="by-eye">
			Your eye: {shadeInWords(
				{ position: { between: eye.between, at: eye.position }, qualifier: '=' },
				values
			)}.
		</p>{/if}
{:else if plunger && plunger.result.left !== null}
	{@const { left, liquid, standardUncertainty } = plunger.result}
	<p class="text-2xl font-semibold" data-testid="seen">
		<span class="figure">{numeral(left, 3)}</span> mL left
		<span class="figure text-lg text-faint">± {numeral(COVERAGE_95 * (standardUncertainty ?? 0), 3)}</span>
	</p>
	<p class="text-sm text-faint">
		used <span class="figure">{numeral(plunger.fillMl - left, 3)}</span> mL. The full line stands on the
		plunger’s edge{liquid === null
			? ''
			: `, the dashed one on the liquid (${numeral(liquid, 2)}): that is not read`}.
	</p>
{/if}
{#each flags as flag (flag)}<p class="mt-1 text-sm text-saffron" data-flag>▲ {flag}</p>{/each}
