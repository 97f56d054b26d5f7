<script lang="ts">
	/**
	 * What this device has written and the server does not have yet: a mark that takes no room of its own, so that nothing
	 * moves under a finger when it comes and goes. Behind it stands the list.
	 */
	import { outbox } from '$lib/ui/outbox.svelte';

	interface Props {
		/** It lies over the page instead of standing in its head. */
		floating?: boolean;
	}
	let { floating = false }: Props = $props();
	let open = $state(false);

	const refused = $derived(outbox.waiting.filter((w) => w.problems).length);
	const waiting = $derived(outbox.waiting.filter((w) => !w.problems && !w.quiet).length);
	const trouble = $derived(outbox.trouble.unstored + outbox.trouble.broken);
	const bad = $derived(refused > 0 || trouble > 0);
	const words = $derived(
		refused
			? `${refused} not taken`
			: trouble
				? 'This device is full'
				: outbox.state === 'sign in' && outbox.waiting.length
					? 'Sign in to send'
					: waiting
						? `${waiting} on the way`
						: ''
	);
	// A session's own foot says what is on its way; only what wants a decision lies over it.
	const shown = $derived(words !== '' && (!floating || bad || outbox.state === 'sign in'));
</script>

<div aria-live="polite" class={floating ? 'floating' : 'room'}>
	{#if shown}
		<button
			class="chip {bad ? 'bg-brick-wash' : 'bg-saffron-wash'}"
			data-testid="waiting"
			aria-haspopup="dialog"
			onclick={() => (open = true)}
		>
			<span aria-hidden="true">{bad ? '▲' : '◷'}</span>
			<span class={floating ? '' : 'max-sm:sr-only'}>{words}</span>
			{#if !floating}<span class="sm:hidden" aria-hidden="true">{refused || trouble || waiting || ''}</span
				>{/if}
		</button>
	{/if}
</div>
{#if open}
	{#await import('./WaitingList.svelte') then { default: WaitingList }}
		<WaitingList bind:open />
	{/await}
{/if}

<style>
	.chip {
		display: inline-flex;
		align-items: center;
		gap: 0.4rem;
		min-height: 2.75rem;
		padding-inline: 0.6rem;
		border-radius: 0.5rem;
		color: var(--ink);
		font-size: 0.875rem;
		white-space: nowrap;
	}
	/* On a phone its room is kept for it, so that its coming moves nothing beside it. */
	@media (width < 40rem) {
		.room {
			flex: none;
			inline-size: 3.25rem;
		}
	}
	.floating {
		position: fixed;
		inset-block-start: 0.25rem;
		inset-inline: 0;
		z-index: 20;
		display: flex;
		justify-content: center;
		pointer-events: none;
	}
	/* What appears under a finger that is on its way down does not take the tap. */
	.floating .chip {
		animation: arm 0s 0.8s forwards;
		pointer-events: none;
	}
	@keyframes arm {
		to {
			pointer-events: auto;
		}
	}
</style>
