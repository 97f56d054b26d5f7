<script lang="ts">
	/** The frame of every page at the door: signing in, making an account, a password that was forgotten. */
	import type { Snippet } from 'svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	interface Props {
		title: string;
		/** The heading where it says more than the title. */
		heading?: string;
		children: Snippet;
	}
	let { title, heading = title, children }: Props = $props();
</script>

<Title of={title} />
<div class="mx-auto max-w-md">
	<h1 class="mt-6">{heading}</h1>
	{@render children()}
</div>
