<script lang="ts">
	/** A table that may be wider than a small screen: it scrolls by itself and has a name. */
	import type { Snippet } from 'svelte';
	import { scrolls } from './scrolls';

	interface Props {
		name: string;
		id?: string;
		class?: string;
		children: Snippet;
	}
	let { name, id, class: classes = '', children }: Props = $props();
</script>

<div {id} class="overflow-x-auto {classes}" role="region" aria-label={name} {@attach scrolls}>
	{@render children()}
</div>
