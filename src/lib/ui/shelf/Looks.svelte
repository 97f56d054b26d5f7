<script lang="ts">
	/** How an instrument is read, by its picture; arrows go from one to the next, as in any group of radio buttons. */
	import { tick } from 'svelte';
	import Look from './Look.svelte';
	import { LOOKS } from './kit-draft';

	let { chosen, onchoose }: { chosen: string; onchoose: (look: string) => void } = $props();

	async function arrows(event: KeyboardEvent) {
		const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
		if (!by) return;
		event.preventDefault();
		const group = event.currentTarget as HTMLElement;
		const at = LOOKS.findIndex((l) => l.id === chosen);
		onchoose(LOOKS[(at + by + LOOKS.length) % LOOKS.length]!.id);
		await tick();
		group.querySelector<HTMLElement>('[aria-checked=true]')?.focus();
	}
</script>

<div role="radiogroup" aria-label="How it is read" class="looks" onkeydown={arrows} tabindex="-1">
	{#each LOOKS as l (l.id)}
		<button
			type="button"
			role="radio"
			aria-checked={chosen === l.id}
			tabindex={chosen === l.id ? 0 : -1}
			class="look"
			title={l.hint}
			data-look={l.id}
			autofocus={chosen === l.id}
			onclick={() => onchoose(l.id)}
		>
			<Look look={l.id} />
			<span class="leading-tight">{l.title}</span>
		</button>
	{/each}
</div>

<style>
	.looks {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem;
	}
	.look {
		display: flex;
		flex-direction: column;
		align-items: center;
		gap: 0.25rem;
		flex: 1 1 6.5rem;
		max-width: 10rem;
		min-height: 6.5rem;
		padding: 0.5rem 0.25rem;
		border: 1px solid var(--rule);
		border-radius: 12px;
		background: var(--sheet);
		color: var(--faint-ink);
		font-size: 0.95rem;
	}
	.look[aria-checked='true'] {
		border: 2px solid var(--plum);
		background: var(--plum-wash);
		color: var(--plum);
		font-weight: 600;
	}
	@media (max-width: 48rem) {
		.looks {
			display: grid;
			grid-template-columns: repeat(4, minmax(0, 1fr));
		}
		.look {
			max-width: none;
			min-height: 5.5rem;
			font-size: 0.85rem;
		}
	}
</style>
