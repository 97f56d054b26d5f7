<script lang="ts">
	/** Beside an answer: what was read for it, what is known of its kit, and what is taken away. */
	import type { Method, Proved } from '$core/methods';
	import { formatUnit } from '$core/quantities';
	import type { Parameter } from '$core/catalogue';
	import { daysAgo } from '$lib/ui/when';
	import { inWords } from '$lib/ui/wording';
	import { provedInWords } from '$lib/ui/words/proof';
	import { shownOn, type Draft } from './draft-reading';
	import type { OtherReading } from './other';
	import type { ReaderView } from './reader-session';
	import { complement, writtenBoth } from './syringe-text';

	interface Props {
		method: Method;
		parameter: Parameter;
		draft: Draft;
		view: ReaderView;
		other: OtherReading | undefined;
		proved: Proved | undefined;
		now: string;
		timeZone: string;
	}
	let { method, parameter, draft, view, other, proved, now, timeZone }: Props = $props();
</script>

{#if view.result && method.reads === 'syringe'}
	<span class="text-sm text-faint"
		>left <span class="figure text-ink">{writtenBoth(view.left, method.syringe.graduationMl)}</span> · used
		<span class="figure text-ink"
			>{writtenBoth(complement(view.left, method.syringe.fillMl), method.syringe.graduationMl)}</span
		>
		mL{draft.refills ? ` + ${draft.refills} full` : ''}</span
	>
{:else if view.request && view.result && 'display' in method && shownOn(method).unit !== parameter.unit && 'shown' in view.request.reading}
	<span class="text-sm text-faint"
		>from <span class="figure text-ink">{draft.text}</span> {formatUnit(shownOn(method).unit)}</span
	>
{/if}
{#if proved}<span class="text-sm text-faint" data-testid="proved">{provedInWords(parameter.id, proved)}</span
	>{/if}
{#if method.takeAway}
	<span class="text-sm text-faint">
		{other
			? `${other.parameter} ${inWords(other, other.unit)}, ${daysAgo(other.takenAt, now, timeZone)}, taken away`
			: `measure ${method.takeAway.parameter} first: it is taken away`}
	</span>
{/if}
