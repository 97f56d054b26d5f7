<script lang="ts">
	/** A form at the door: what is wrong with it as a whole above its fields; what was typed stays. */
	import type { Snippet } from 'svelte';
	import { enhance } from '$app/forms';
	import Button from 'flowbite-svelte/Button.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	interface Props {
		action?: string;
		wrong: Parameters<typeof problemAt>[0];
		/** What the button says. */
		go: string;
		/** The one thing to do here, or another way beside it. */
		weight?: 'large' | 'usual' | 'quiet';
		children: Snippet;
	}
	let { action, wrong, go, weight = 'usual', children }: Props = $props();
</script>

<form
	method="POST"
	{action}
	use:enhance={() =>
		({ update }) =>
			update({ reset: false })}
>
	<Trouble says={problemAt(wrong, '')} />
	{@render children()}
	<Button
		type="submit"
		color={weight === 'quiet' ? 'alternative' : 'primary'}
		class="mt-4 w-full {weight === 'large' ? 'min-h-14 text-lg' : ''}">{go}</Button
	>
</form>
