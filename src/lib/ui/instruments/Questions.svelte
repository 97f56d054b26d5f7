<script lang="ts">
	/** Was it misread? Asked before it is saved; the keeper decides. */
	import Button from 'flowbite-svelte/Button.svelte';
	import type { Question } from '$core/methods';
	import { withDecimals } from '$lib/ui/wording';

	interface Props {
		asked: Question[];
		onyes: (slip: string, value: number) => void;
		onno: (slip: string) => void;
	}
	let { asked, onyes, onno }: Props = $props();

	/** More at once would be a guessing game. */
	const MOST = 2;
	/** These lie in the choice of method, which only the keeper can change. */
	const canChange = (slip: string) => !['unit', 'column', 'not-subtracted'].includes(slip);
</script>

{#each asked.slice(0, MOST) as question (question.slip)}
	<div
		class="mb-2 flex max-w-xl flex-wrap items-center gap-2 rounded-lg bg-saffron-wash p-2 text-sm"
		role="alert"
	>
		<span class="flex-1">▲ {withDecimals(question.ask)}</span>
		{#if canChange(question.slip)}
			<Button size="sm" onclick={() => onyes(question.slip, question.value)}>Yes, change it</Button>
		{/if}
		<Button size="sm" color="alternative" onclick={() => onno(question.slip)}>No, it is right</Button>
	</div>
{/each}
