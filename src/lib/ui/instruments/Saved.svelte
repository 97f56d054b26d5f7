<script lang="ts">
	/** What was kept, the way back, and what goes on in the same vial: over the header, where it moves nothing and hides no work. */
	interface Props {
		words: string;
		undone: boolean;
		next: { name: string; href: string } | undefined;
		onundo: () => void;
		onclose: () => void;
	}
	let { words, undone, next, onundo, onclose }: Props = $props();
</script>

<div class="saved" role="status" data-testid="saved">
	<span class="min-w-0 flex-1 leading-tight"
		><span class="text-moss" aria-hidden="true">{undone ? '○' : '●'}</span>
		{undone ? `Undone: ${words}` : `Saved: ${words}`}</span
	>
	{#if next && !undone}
		<a class="link" href={next.href}>Go on with {next.name}</a>
	{/if}
	{#if !undone}<button type="button" class="link px-2" onclick={onundo}>Undo</button>{/if}
	<button type="button" class="min-h-11 min-w-8 text-faint" aria-label="Put this away" onclick={onclose}
		>✕</button
	>
</div>

<style>
	.saved {
		position: fixed;
		z-index: 20;
		inset: 0.1rem auto auto 50%;
		transform: translateX(-50%);
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		column-gap: 1rem;
		max-width: min(40rem, 50vw);
		padding-inline: 0.75rem;
		border: 1px solid var(--rule);
		border-radius: 0.5rem;
		background: var(--sheet);
		color: var(--ink);
	}
	/* Beside it stay what waits to be sent, the account and the theme. */
	@media (width < 48rem) {
		.saved {
			inset-inline: 0.25rem auto;
			transform: none;
			column-gap: 0.25rem;
			max-width: calc(100vw - 11.5rem);
			padding-inline: 0.5rem;
			font-size: 0.875rem;
		}
	}
</style>
