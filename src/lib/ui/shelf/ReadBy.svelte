<script lang="ts">
	/** The fields of what a method is read by: a syringe, drops, patches or a display. */
	import type { Snippet } from 'svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { Method } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import { SECOND, displayIn, number, patchValues } from './kit-draft';

	interface Props {
		method: Method;
		/** Those of its parameter. */
		units: string[];
		field: Snippet<
			[
				label: string,
				value: string | number | undefined,
				path: string,
				onset: (text: string) => void,
				hint?: string
			]
		>;
		/** What is wrong at a path. */
		said: Snippet<[path: string]>;
		onchange: (part: Partial<Method>) => void;
		/** The scale is another, and so the keeper's own. */
		onscale: (part: Partial<Method>) => void;
	}
	let { method, units, field, said, onchange, onscale }: Props = $props();
</script>

{#if method.reads === 'syringe'}
	{@const m = method}
	<div class="grid gap-3 md:grid-cols-4">
		{@render field('Syringe holds, mL', m.syringe.fillMl, '/syringe/fillMl', (t) =>
			onchange({ syringe: { ...m.syringe, fillMl: number(t) } })
		)}
		{@render field('One line, mL', m.syringe.graduationMl, '/syringe/graduationMl', (t) =>
			onchange({ syringe: { ...m.syringe, graduationMl: number(t) } })
		)}
		<Label>
			Its chart goes by what is
			<Select
				placeholder=""
				value={m.syringe.readAs}
				onchange={(e) =>
					onchange({ syringe: { ...m.syringe, readAs: e.currentTarget.value as 'left' | 'used' } })}
			>
				<option value="left">left in the syringe</option>
				<option value="used">used</option>
			</Select>
		</Label>
		{#if m.scale.kind === 'linear'}
			{@const scale = m.scale}
			{@render field(
				`${formatUnit(m.unit)} for each mL used`,
				Number(scale.perMl.toPrecision(6)),
				'/scale',
				(t) => onscale({ scale: { ...scale, perMl: number(t) } } as Partial<Method>)
			)}
		{:else}
			<p class="self-end text-sm">
				A chart of {m.scale.points.length} lines, by what is {m.scale.by}.{@render said('/scale')}
			</p>
		{/if}
	</div>
{:else if method.reads === 'drops'}
	{@const m = method}
	<div class="grid gap-3 md:grid-cols-4">
		{#if m.scale.kind === 'linear'}
			{@const scale = m.scale}
			{@render field(
				`${formatUnit(m.unit)} for each drop`,
				Number(scale.perDrop.toPrecision(6)),
				'/scale',
				(t) => onscale({ scale: { ...scale, perDrop: number(t) } } as Partial<Method>)
			)}
		{:else}
			<p class="self-end text-sm">A chart of {m.scale.points.length} lines.</p>
		{/if}
		<Checkbox
			classes={{ div: 'self-end' }}
			checked={m.countConfirming !== false}
			onchange={(e) => onchange({ countConfirming: e.currentTarget.checked })}
			>the confirming drop counts</Checkbox
		>
	</div>
{:else if method.reads === 'shades'}
	{@const m = method}
	<div class="grid gap-3 md:grid-cols-4">
		<div class="md:col-span-2">
			{@render field(
				'Values of the patches, palest first',
				m.shades.join(' '),
				'/shades',
				(t) => onscale({ shades: patchValues(t) } as Partial<Method>),
				'For example 0 1 2 5 10'
			)}
		</div>
		<Label>
			Matched on a
			<Select
				placeholder=""
				value={m.form ?? 'card'}
				onchange={(e) => onchange({ form: e.currentTarget.value as 'card' })}
			>
				<option value="card">card</option>
				<option value="wheel">wheel</option>
				<option value="block">sliding block</option>
			</Select>
		</Label>
		<div>
			{@render field('A second column, if any', m.columns?.[0]?.shades.join(' ') ?? '', '/columns', (t) =>
				onscale({ columns: t.trim() ? [{ name: SECOND, shades: patchValues(t) }] : [] } as Partial<Method>)
			)}
		</div>
	</div>
	<fieldset>
		<legend class="text-sm text-faint"
			>Colours of your card, if you like: for telling patches apart, never for matching on a screen</legend
		>
		<div class="mt-1 flex flex-wrap gap-2">
			{#each m.shades as shade, i (i)}
				<label class="figure text-center text-sm">
					<input
						type="color"
						class="block size-11 rounded border bg-sheet"
						value={m.colours?.[i] ?? '#e8dccb'}
						onchange={(e) =>
							onchange({
								colours: m.shades.map((_, k) =>
									k === i ? e.currentTarget.value : (m.colours?.[k] ?? '#e8dccb')
								)
							})}
					/>
					{shade}
				</label>
			{/each}
		</div>
	</fieldset>
{:else}
	{@const m = method}
	{@const step = m.reads === 'display' ? 'resolution' : 'graduation'}
	<div class="grid gap-3 md:grid-cols-4">
		<Label>
			It shows
			<Select
				placeholder=""
				value={m.display.unit}
				onchange={(e) => onchange({ display: displayIn(m.display, m.parameter, e.currentTarget.value) })}
			>
				{#each units as unit (unit)}<option value={unit}>{formatUnit(unit) || 'pH'}</option>{/each}
			</Select>
			{@render said('/display/unit')}
		</Label>
		{@render field(m.reads === 'display' ? 'Last digit' : 'One line', m.display[step], '/display', (t) =>
			onchange({ display: { ...m.display, [step]: number(t) } })
		)}
		{@render field('Promised within ±', m.display.absolute ?? 0, '/display/absolute', (t) =>
			onchange({ display: { ...m.display, absolute: number(t) } })
		)}
		{@render field(
			'and ± % of the value',
			Number(((m.display.relative ?? 0) * 100).toPrecision(4)),
			'/display/relative',
			(t) => onchange({ display: { ...m.display, relative: number(t) / 100 } })
		)}
	</div>
{/if}
