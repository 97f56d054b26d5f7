<script lang="ts">
	/** The syringe, and what it says to who does not see it. */
	import type { SyringeMethod } from '$core/instruments';
	import type { FaceProps } from '../view';
	import { plungerAt, plungerLeft } from './draft';
	import { writtenBoth } from './plunger-text';
	import { readOn } from './read-on';
	import Syringe from './Syringe.svelte';

	let { method, draft, view, flipped, hidden, spoken, onchange }: FaceProps<SyringeMethod> = $props();

	const left = $derived(plungerLeft(method, readOn(view)));
	const place = $derived(`${writtenBoth(left, method.syringe.graduationMl)} millilitres left`);
</script>

<Syringe
	fillMl={method.syringe.fillMl}
	graduationMl={method.syringe.graduationMl}
	{left}
	{flipped}
	readAs={draft.readAs}
	label="Plunger, {draft.readAs === 'left' ? 'what is left' : 'moving down as titrant is used'}"
	spoken={!view.result ? 'full, nothing read yet' : hidden ? place : `${place}, ${spoken}`}
	onmove={(ml) => onchange(plungerAt(method, draft.readAs, ml))}
/>
