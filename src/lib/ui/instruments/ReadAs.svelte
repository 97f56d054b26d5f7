<script lang="ts">
	/** Whether a keeper reads what is left in the syringe or what was used. */
	import Button from 'flowbite-svelte/Button.svelte';

	type Convention = 'left' | 'used';
	interface Props {
		/** What the kit's chart goes by. */
		chart: Convention;
		chosen: Convention;
		onchoose: (convention: Convention) => void;
	}
	let { chart, chosen, onchoose }: Props = $props();
</script>

<fieldset class="mt-1">
	<legend class="text-sm text-faint">This kit’s chart goes by what is {chart}. I read what is</legend>
	<div class="mt-1 flex max-w-sm gap-2">
		{#each ['left', 'used'] as const as convention (convention)}
			<Button
				color={chosen === convention ? 'primary' : 'alternative'}
				class="flex-1"
				aria-pressed={chosen === convention}
				onclick={() => convention !== chosen && onchoose(convention)}>{convention}</Button
			>
		{/each}
	</div>
</fieldset>
