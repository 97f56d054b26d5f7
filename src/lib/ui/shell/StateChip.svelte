<script lang="ts">
	/** Where a level stands, as a shape, a colour and a word. */
	import type { Placing } from '$core/targets';
	import { STATES } from '$lib/ui/wording';

	let { place }: { place: Placing } = $props();
	const shown = $derived(STATES[place.state]);
</script>

<span class="chip {shown.tone}"><span aria-hidden="true">{shown.shape}</span>&nbsp;{shown.word()}</span>

<style>
	.chip {
		display: inline-block;
		border-radius: 0.8rem;
		padding: 0.05rem 0.35rem;
		line-height: 1.3;
		color: var(--ink);
	}
	.moss {
		background: var(--moss-wash);
	}
	.saffron {
		background: var(--saffron-wash);
	}
	.brick {
		background: var(--brick-wash);
	}
</style>
