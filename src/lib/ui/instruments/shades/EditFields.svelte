<script lang="ts">
	/** The patches of a card, a wheel or a block: their values and colours. */
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { ShadesMethod } from '$core/instruments';
	import { SECOND, patchValues } from '$lib/ui/shelf/typed';
	import type { EditProps } from '../editor';

	let { method, field, onchange, onscale }: EditProps<ShadesMethod> = $props();
</script>

<div class="grid gap-3 md:grid-cols-4">
	<div class="md:col-span-2">
		{@render field(
			'Values of the patches, palest first',
			method.shades.join(' '),
			'/shades',
			(t) => onscale({ shades: patchValues(t) }),
			'For example 0 1 2 5 10'
		)}
	</div>
	<Label>
		Matched on a
		<Select
			placeholder=""
			value={method.form ?? 'card'}
			onchange={(e) => onchange({ form: e.currentTarget.value as 'card' })}
		>
			<option value="card">card</option>
			<option value="wheel">wheel</option>
			<option value="block">sliding block</option>
		</Select>
	</Label>
	<div>
		{@render field('A second column, if any', method.columns?.[0]?.shades.join(' ') ?? '', '/columns', (t) =>
			onscale({ columns: t.trim() ? [{ name: SECOND, shades: patchValues(t) }] : [] })
		)}
	</div>
</div>
<fieldset>
	<legend class="text-sm text-faint"
		>Colours of your card, if you like: for telling patches apart, never for matching on a screen</legend
	>
	<div class="mt-1 flex flex-wrap gap-2">
		{#each method.shades as shade, i (i)}
			<label class="figure text-center text-sm">
				<input
					type="color"
					class="block size-11 rounded border bg-sheet"
					value={method.colours?.[i] ?? '#e8dccb'}
					onchange={(e) =>
						onchange({
							colours: method.shades.map((_, k) =>
								k === i ? e.currentTarget.value : (method.colours?.[k] ?? '#e8dccb')
							)
						})}
				/>
				{shade}
			</label>
		{/each}
	</div>
</fieldset>
