<script lang="ts">
	/** Whether a keeper reads what is left in the syringe or what was used. */
	import Button from 'flowbite-svelte/Button.svelte';
	import type { SyringeMethod } from '$core/instruments';
	import type { PartProps } from '../view';
	import { plungerLeft, readUnder } from './draft';
	import { readOn } from './read-on';

	let { method, draft, view, moved, onchange }: PartProps<SyringeMethod> = $props();

	const stays = $derived.by(() => {
		const reading = moved ? readOn(view) : undefined;
		return reading && plungerLeft(method, reading);
	});
</script>

<fieldset class="mt-1">
	<legend class="text-sm text-faint"
		>This kit’s chart goes by what is {method.syringe.readAs}. I read what is</legend
	>
	<div class="mt-1 flex max-w-sm gap-2">
		{#each ['left', 'used'] as const as convention (convention)}
			<Button
				color={draft.readAs === convention ? 'primary' : 'alternative'}
				class="flex-1"
				aria-pressed={draft.readAs === convention}
				onclick={() => convention !== draft.readAs && onchange(readUnder(method, convention, stays))}
				>{convention}</Button
			>
		{/each}
	</div>
</fieldset>
