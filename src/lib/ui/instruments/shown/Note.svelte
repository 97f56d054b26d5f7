<script lang="ts">
	/** What was shown, where the answer is in another unit. */
	import type { Method, ShownMethod } from '$core/instruments';
	import { formatUnit } from '$core/quantities';
	import type { PartProps } from '../view';
	import { shownOn } from './draft';

	let {
		method,
		parameter,
		draft,
		view
	}: Pick<PartProps, 'parameter' | 'draft' | 'view'> & { method: Method & ShownMethod } = $props();
	const unit = $derived(shownOn(method).unit);
</script>

{#if unit !== parameter.unit && view.request && 'shown' in view.request.reading}
	<span class="text-sm text-faint"
		>from <span class="figure text-ink">{draft.text}</span> {formatUnit(unit)}</span
	>
{/if}
