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

<style>
	/* A shade at the side where there is more; what goes with the content covers it at the end. */
	div {
		--end: 2.5rem 100% no-repeat;
		--side: 0.9rem 100% no-repeat;
		--shade: color-mix(in srgb, var(--glass) 45%, transparent);
		background:
			linear-gradient(to right, var(--paper) 40%, transparent) left / var(--end) local,
			linear-gradient(to left, var(--paper) 40%, transparent) right / var(--end) local,
			linear-gradient(to right, var(--shade), transparent) left / var(--side) scroll,
			linear-gradient(to left, var(--shade), transparent) right / var(--side) scroll;
	}
	@media print {
		div {
			background: none;
		}
	}
</style>
