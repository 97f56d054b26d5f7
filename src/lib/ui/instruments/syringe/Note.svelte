<script lang="ts">
	/** The plunger by both conventions. */
	import type { SyringeMethod } from '$core/instruments';
	import type { PartProps } from '../view';
	import { plungerLeft } from './draft';
	import { complement, writtenBoth } from './plunger-text';
	import { readOn } from './read-on';

	let { method, draft, view }: Pick<PartProps<SyringeMethod>, 'method' | 'draft' | 'view'> = $props();
	const { fillMl, graduationMl } = $derived(method.syringe);
	const left = $derived(plungerLeft(method, readOn(view)));
</script>

<span class="text-sm text-faint"
	>left <span class="figure text-ink">{writtenBoth(left, graduationMl)}</span> · used
	<span class="figure text-ink">{writtenBoth(complement(left, fillMl), graduationMl)}</span>
	mL{draft.refills ? ` + ${draft.refills} full` : ''}</span
>
