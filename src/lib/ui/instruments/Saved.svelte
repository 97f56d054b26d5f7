<script lang="ts">
	/** What was kept, the way back, and what goes on in the same vial. */
	import Button from 'flowbite-svelte/Button.svelte';
	import Toast from 'flowbite-svelte/Toast.svelte';

	interface Props {
		id: string;
		words: string;
		undone: boolean;
		next: { name: string; href: string } | undefined;
		onundo: () => void;
	}
	let { id, words, undone, next, onundo }: Props = $props();
</script>

{#key id}
	<Toast
		class="fixed end-4 bottom-20 z-20 max-w-[calc(100vw-2rem)] border sm:max-w-sm bg-sheet text-ink md:bottom-6"
		dismissable={false}
		align={false}
	>
		<div class="flex flex-wrap items-center gap-x-4" role="status" data-testid="saved">
			<span>{undone ? `Undone: ${words}` : `Saved: ${words}`}</span>
			{#if next && !undone}
				<a class="flex min-h-11 items-center text-plum underline" href={next.href}>Go on with {next.name}</a>
			{/if}
			{#if !undone}<Button size="sm" color="alternative" onclick={onundo}>Undo</Button>{/if}
		</div>
	</Toast>
{/key}
