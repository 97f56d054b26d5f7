<script lang="ts">
	/** What a drop means, and whether the confirming one counts. */
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import type { DropsMethod } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import { number } from '$lib/ui/shelf/typed';
	import type { EditProps } from '../editor';

	let { method, field, onchange, onscale }: EditProps<DropsMethod> = $props();
</script>

<div class="grid gap-3 md:grid-cols-4">
	{#if method.scale.kind === 'linear'}
		{@const scale = method.scale}
		{@render field(
			`${formatUnit(method.unit)} for each drop`,
			Number(scale.perDrop.toPrecision(6)),
			'/scale',
			(t) => onscale({ scale: { ...scale, perDrop: number(t) } })
		)}
	{:else}
		<p class="self-end text-sm">A chart of {method.scale.points.length} lines.</p>
	{/if}
	<Checkbox
		classes={{ div: 'self-end' }}
		checked={method.countConfirming !== false}
		onchange={(e) => onchange({ countConfirming: e.currentTarget.checked })}
		>the confirming drop counts</Checkbox
	>
</div>
