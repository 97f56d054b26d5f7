<script lang="ts">
	/** A syringe, and what a mL from it means. */
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { SyringeMethod } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import { number } from '$lib/ui/shelf/typed';
	import type { EditProps } from '../editor';

	let { method, field, said, onchange, onscale }: EditProps<SyringeMethod> = $props();
</script>

<div class="grid gap-3 md:grid-cols-4">
	{@render field('Syringe holds, mL', method.syringe.fillMl, '/syringe/fillMl', (t) =>
		onchange({ syringe: { ...method.syringe, fillMl: number(t) } })
	)}
	{@render field('One line, mL', method.syringe.graduationMl, '/syringe/graduationMl', (t) =>
		onchange({ syringe: { ...method.syringe, graduationMl: number(t) } })
	)}
	<Label>
		Its chart goes by what is
		<Select
			placeholder=""
			value={method.syringe.readAs}
			onchange={(e) =>
				onchange({ syringe: { ...method.syringe, readAs: e.currentTarget.value as 'left' | 'used' } })}
		>
			<option value="left">left in the syringe</option>
			<option value="used">used</option>
		</Select>
	</Label>
	{#if method.scale.kind === 'linear'}
		{@const scale = method.scale}
		{@render field(
			`${formatUnit(method.unit)} for each mL used`,
			Number(scale.perMl.toPrecision(6)),
			'/scale',
			(t) => onscale({ scale: { ...scale, perMl: number(t) } })
		)}
	{:else}
		<p class="self-end text-sm">
			A chart of {method.scale.points.length} lines, by what is {method.scale.by}.{@render said('/scale')}
		</p>
	{/if}
</div>
