<script lang="ts">
	/** Beside an answer: what was read for it, what is known of its kit, and what is taken away. */
	import type { Method } from '$core/instruments';
	import type { Proved } from '$core/methods';
	import type { Parameter } from '$core/catalogue';
	import { daysAgo } from '$lib/ui/when';
	import { inWords } from '$lib/ui/wording';
	import { provedInWords } from '$lib/ui/words/checks';
	import { viewOf } from './all';
	import type { Draft } from './draft';
	import type { OtherReading } from './other';
	import type { ReaderView } from './reader-session';

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
	const { Note } = $derived(viewOf(method));
</script>

{#if view.result && Note}<Note {method} {parameter} {draft} {view} />{/if}
{#if proved}<span class="text-sm text-faint" data-testid="proved">{provedInWords(parameter.id, proved)}</span
	>{/if}
{#if method.takeAway}
	<span class="text-sm text-faint">
		{other
			? `${other.parameter} ${inWords(other, other.unit)}, ${daysAgo(other.takenAt, now, timeZone)}, taken away`
			: `measure ${method.takeAway.parameter} first: it is taken away`}
	</span>
{/if}
