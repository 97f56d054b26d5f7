<script lang="ts">
	/** What was kept, the way back, and what goes on in the same vial: above the instrument, where it lies over nothing. */

	interface Props {
		words: string;
		undone: boolean;
		next: { name: string; href: string } | undefined;
		onundo: () => void;
	}
	let { words, undone, next, onundo }: Props = $props();
</script>

<div
	class="mb-2 flex min-h-11 flex-wrap items-center gap-x-4 rounded-lg border bg-sheet px-3 py-0.5"
	role="status"
	data-testid="saved"
>
	<span class="min-w-0 flex-1"
		><span class="text-moss" aria-hidden="true">{undone ? '○' : '●'}</span>
		{undone ? `Undone: ${words}` : `Saved: ${words}`}</span
	>
	{#if next && !undone}
		<a class="flex min-h-11 items-center text-plum underline" href={next.href}>Go on with {next.name}</a>
	{/if}
	{#if !undone}<button type="button" class="min-h-11 px-2 text-plum underline" onclick={onundo}>Undo</button
		>{/if}
</div>
