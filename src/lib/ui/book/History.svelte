<script lang="ts">
	/** A reading's particulars: how sure, and every state it was in. */
	import type { BookReading, BookRevision } from '$lib/api/book';
	import type { Photo } from '$lib/api/photos';
	import { call } from '$lib/client/api';
	import Pictures from './Pictures.svelte';
	import { dateAndTime } from '$lib/ui/when';
	import { readingFor } from '$lib/ui/mine';
	import { inWords, seenAs } from '$lib/ui/wording';
	import { markInWords } from '$lib/ui/bench/results';
	import { provedInWords } from '$lib/ui/words/checks';

	let { line, timeZone, mayWrite }: { line: BookReading; timeZone: string; mayWrite: boolean } = $props();
	async function load(
		id: string,
		_revision: number
	): Promise<{ revisions: BookRevision[]; photos: Photo[] }> {
		const found = await call<{ revisions: BookRevision[]; photos: Photo[] }>('GET', `/api/v1/readings/${id}`);
		if (!found.ok) throw new Error(found.problems[0]!.message);
		return found.value;
	}
	const history = $derived(load(line.id, line.revision));
	/** By a chart that came later: nobody saw anything else. */
	const computedAgain = (r: BookRevision) => r.reason?.startsWith('computed again') ?? false;
	const inMine = (r: BookRevision) => {
		const mine = readingFor({ ...r, parameter: line.parameter });
		return inWords(mine, mine.unit);
	};
	const what = (r: BookRevision, before: BookRevision | undefined) =>
		!before
			? line.imported
				? 'imported from a file'
				: 'written down'
			: r.voided && !before.voided
				? 'voided'
				: !r.voided && before.voided
					? 'put back'
					: 'corrected';
</script>

{#each line.marks ?? [] as mark, i (i)}<p class="text-sm text-saffron">▲ {markInWords(mark)}</p>{/each}
{#if line.proof}<p class="text-sm">
		◆ {provedInWords(line.parameter, line.proof)}; below is what was read.
	</p>{/if}
{#await history}
	<p class="text-sm text-faint">looking it up…</p>
{:then { revisions, photos }}
	<ol class="text-sm">
		{#each revisions as r, i (r.revision)}
			<li class="flex flex-wrap gap-x-3 border-s-2 ps-3">
				<span class="text-faint">{dateAndTime(r.at, timeZone)}</span>
				<span
					>{computedAgain(r)
						? `${r.reason}, for ${r.by}`
						: `${what(r, revisions[i - 1])} by ${r.by}${r.reason ? `: ${r.reason}` : ''}`}</span
				>
				<span class="figure {r.voided ? 'line-through' : ''}">{inMine(r)}</span>
				<span class="text-faint">{seenAs(r.raw)}, {r.methodName}</span>
				{#if r.takenAt}<span class="text-faint">water of {dateAndTime(r.takenAt, timeZone)}</span>{/if}
			</li>
		{/each}
	</ol>
	{#if photos.length}<Pictures {line} {photos} {timeZone} {mayWrite} />{/if}
{:catch failure}
	<p class="text-sm text-brick">▲ {(failure as Error).message}</p>
{/await}
