<script lang="ts">
	import Button from 'flowbite-svelte/Button.svelte';
	import { drop, outbox } from '$lib/ui/outbox.svelte';

	const refused = $derived(outbox.waiting.filter((l) => l.problems));
	const onTheWay = $derived(outbox.waiting.filter((l) => !l.problems));
</script>

<div aria-live="polite">
	{#if onTheWay.length}
		<p class="border-b bg-saffron-wash px-4 py-2 text-sm text-ink">
			◷ Kept on this device, on its way to the server: {onTheWay.map((l) => l.about).join('; ')}
		</p>
	{/if}
	{#each refused as letter (letter.id)}
		<div class="flex flex-wrap items-center gap-3 border-b bg-brick-wash px-4 py-2 text-sm text-ink">
			<span>
				▲ {letter.about} was not taken: {(letter.problems ?? [])
					.map((p) => `${p.path} ${p.message}`.trim())
					.join('; ')}
			</span>
			<Button size="xs" color="alternative" onclick={() => drop(letter.id)}>Drop it</Button>
		</div>
	{/each}
</div>
