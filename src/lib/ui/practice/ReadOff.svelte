<script lang="ts">
	/** A number read off and typed, as at the bench: of a syringe with its picture, or of drops from memory. */
	import Button from 'flowbite-svelte/Button.svelte';
	import { parseSyringeEntry } from '$core/instruments';
	import { numeral } from '$lib/ui/habits';
	import Field from '$lib/ui/forms/Field.svelte';
	import Barrel from './Barrel.svelte';
	import { belongsElsewhere } from './keys';
	import type { PracticeKit } from './kits';

	interface Props {
		kit: PracticeKit;
		/** Where the plunger's edge stands; nothing for drops. */
		left?: number;
		/** Whether the sample was half of what the kit asks. */
		half?: boolean;
		/** In mL left, or drops; with both ends where it was said to lie between two lines. */
		onstop: (said: [number, number], refills: number) => void;
		/** Whether it may have been filled again. */
		refills?: boolean;
	}
	let { kit, left, half = false, onstop, refills = false }: Props = $props();
	let text = $state('');
	let fills = $state('');
	let problem: string | undefined = $state();
	const AIR = 0.045;
	/** A quarter of a fill, so that lines are as far apart as before an eye. */
	const span = $derived.by((): [number, number] => {
		const low = Math.max(0, Math.floor(((left ?? 0) - 0.12) * 10) / 10);
		return [low, low + 0.3];
	});

	function say(event: Event) {
		event.preventDefault();
		problem = undefined;
		if (kit.reads === 'drops') {
			const drops = Number(text.trim());
			if (!/^\d{1,4}$/.test(text.trim())) return void (problem = 'drops are counted: write a whole number');
			return onstop([drops, drops], 0);
		}
		const entry = parseSyringeEntry(text, kit.readAs);
		if (!entry.ok) return void (problem = entry.problems[0]?.message ?? 'is not a number');
		const seen = 'left' in entry.value ? entry.value.left : entry.value.used;
		const ends = (typeof seen === 'number' ? [seen, seen] : seen) as [number, number];
		if (ends.some((ml) => ml < 0 || ml > kit.fillMl))
			return void (problem = `must be between 0 and ${kit.fillMl} mL, the syringe’s size`);
		const asLeft =
			'left' in entry.value ? ends : ([kit.fillMl - ends[1], kit.fillMl - ends[0]] as [number, number]);
		onstop(asLeft, /^\d$/.test(fills.trim()) ? Number(fills) : 0);
	}
	/** Digits go to the reading. */
	let field: HTMLElement | undefined = $state();
	function digit(event: KeyboardEvent) {
		const input = field?.querySelector('input');
		if (/^[\d.,]$/.test(event.key) && input && !belongsElsewhere(event)) input.focus();
	}
</script>

<svelte:window onkeydown={digit} />
<div class="grid gap-4 md:grid-cols-[18rem_22rem]">
	{#if left !== undefined}
		<Barrel {kit} {left} airMl={AIR} {span} label="Syringe" />
	{/if}
	<form onsubmit={say} class="grid content-start gap-3" bind:this={field}>
		<p>
			{#if kit.reads === 'drops'}
				How many drops were they?
			{:else if kit.readAs === 'left'}
				This kit’s chart goes by what is <strong>left</strong>. What does the plunger’s edge say?
			{:else}
				This kit’s chart goes by what was <strong>used</strong> of {kit.fillMl} mL. How much was it?
			{/if}
			{#if left !== undefined}One line is {numeral(kit.graduationMl, 2)} mL.{/if}
			{#if half}Half the sample was drawn; the number is doubled for you.{/if}
		</p>
		<Field
			name="read"
			label={kit.reads === 'drops' ? 'Drops' : kit.readAs === 'left' ? 'Left, mL' : 'Used, mL'}
			hint={kit.reads === 'drops' ? '' : `between two lines: ${numeral(0.41, 2)}-${numeral(0.42, 2)}`}
			inputmode="decimal"
			autofocus
			value={text}
			oninput={(e) => (text = (e.target as HTMLInputElement).value)}
			{problem}
		/>
		{#if refills}
			<Field
				name="refills"
				label="Filled again, times"
				inputmode="numeric"
				value={fills}
				oninput={(e) => (fills = (e.target as HTMLInputElement).value)}
			/>
		{/if}
		<Button type="submit" class="min-h-14">That is it</Button>
	</form>
</div>
