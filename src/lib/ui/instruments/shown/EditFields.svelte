<script lang="ts">
	/** What an instrument shows, how finely, and what its maker promises. */
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { DisplayMethod, ScaleLineMethod } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import { number } from '$lib/ui/shelf/typed';
	import type { EditProps } from '../editor';
	import { displayIn } from './display-in';

	interface Props extends Omit<EditProps, 'method' | 'onchange' | 'onscale'> {
		method: DisplayMethod | ScaleLineMethod;
		step: 'resolution' | 'graduation';
		stepName: string;
		onchange: (part: Pick<DisplayMethod, 'display'>) => void;
	}
	let { method, units, step, stepName, field, said, onchange }: Props = $props();
</script>

<div class="grid gap-3 md:grid-cols-4">
	<Label>
		It shows
		<Select
			placeholder=""
			value={method.display.unit}
			onchange={(e) =>
				onchange({ display: displayIn(method.display, method.parameter, e.currentTarget.value) })}
		>
			{#each units as unit (unit)}<option value={unit}>{formatUnit(unit) || 'pH'}</option>{/each}
		</Select>
		{@render said('/display/unit')}
	</Label>
	{@render field(stepName, method.display[step], '/display', (t) =>
		onchange({ display: { ...method.display, [step]: number(t) } })
	)}
	{@render field('Promised within ±', method.display.absolute ?? 0, '/display/absolute', (t) =>
		onchange({ display: { ...method.display, absolute: number(t) } })
	)}
	{@render field(
		'and ± % of the value',
		Number(((method.display.relative ?? 0) * 100).toPrecision(4)),
		'/display/relative',
		(t) => onchange({ display: { ...method.display, relative: number(t) / 100 } })
	)}
</div>
