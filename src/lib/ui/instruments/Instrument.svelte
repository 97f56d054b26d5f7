<script lang="ts">
	/** What a method is read by, to be moved and set. */
	import type { Method } from '$core/methods';
	import type { Draft } from './draft-reading';
	import Drops from './Drops.svelte';
	import Meter from './Meter.svelte';
	import type { ReaderView } from './reader-session';
	import ScaleLine from './ScaleLine.svelte';
	import Shades from './Shades.svelte';
	import { writtenBoth } from './syringe-text';
	import Syringe from './Syringe.svelte';

	interface Props {
		method: Method;
		draft: Draft;
		view: ReaderView;
		flipped: boolean;
		/** What it says is told to nobody. */
		hidden: boolean;
		onchange: (part: Partial<Draft>) => void;
		/** The plunger stands there, mL. */
		onmove: (ml: number) => void;
	}
	let { method, draft, view, flipped, hidden, onchange, onmove }: Props = $props();

	const spoken = $derived(hidden ? (view.result ? 'read' : 'nothing read yet') : view.spoken);
</script>

{#if method.reads === 'syringe'}
	<Syringe
		fillMl={method.syringe.fillMl}
		graduationMl={method.syringe.graduationMl}
		left={view.left}
		{flipped}
		readAs={draft.readAs}
		label="Plunger, {draft.readAs === 'left' ? 'what is left' : 'moving down as titrant is used'}"
		spoken={hidden && view.result
			? `${writtenBoth(view.left, method.syringe.graduationMl)} millilitres left`
			: view.result
				? `${writtenBoth(view.left, method.syringe.graduationMl)} millilitres left, ${view.spoken}`
				: 'full, nothing read yet'}
		{onmove}
	/>
{:else if method.reads === 'drops'}
	<Drops {method} {draft} {spoken} {onchange} />
{:else if method.reads === 'shades'}
	<Shades {method} {draft} {spoken} {onchange} />
{:else if method.reads === 'display'}
	<Meter {method} {draft} {onchange} />
{:else}
	<ScaleLine {method} {draft} {spoken} {onchange} />
{/if}
