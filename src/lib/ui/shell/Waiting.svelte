<script lang="ts">
	import Button from 'flowbite-svelte/Button.svelte';
	import { drop, outbox } from '$lib/ui/outbox.svelte';

	/** What was refused for the same reason is one message. */
	const refused = $derived.by(() => {
		const groups: { words: string; ids: string[] }[] = [];
		for (const letter of outbox.waiting) {
			if (!letter.problems) continue;
			const words = `${letter.about} was not taken: ${letter.problems.map((p) => `${p.path} ${p.message}`.trim()).join('; ')}`;
			const known = groups.find((g) => g.words === words);
			if (known) known.ids.push(letter.id);
			else groups.push({ words, ids: [letter.id] });
		}
		return groups;
	});
	const onTheWay = $derived(outbox.waiting.filter((l) => !l.problems && !l.quiet));
</script>

<div aria-live="polite">
	{#if onTheWay.length}
		<p class="border-b bg-saffron-wash px-4 py-2 text-sm text-ink">
			◷ Kept on this device, on its way to the server: {onTheWay.map((l) => l.about).join('; ')}
		</p>
	{/if}
	{#each refused as { words, ids } (words)}
		<div class="flex flex-wrap items-center gap-3 border-b bg-brick-wash px-4 py-2 text-sm text-ink">
			<span>▲ {words}{ids.length > 1 ? ` (${ids.length} times)` : ''}</span>
			<Button size="xs" color="alternative" onclick={() => ids.forEach(drop)}
				>Drop {ids.length > 1 ? 'them' : 'it'}</Button
			>
		</div>
	{/each}
</div>
