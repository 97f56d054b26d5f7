<script lang="ts">
	/** The newest readings of a parameter, each to be taken out, and back in. */
	import Button from 'flowbite-svelte/Button.svelte';
	import Table from 'flowbite-svelte/Table.svelte';
	import TableBody from 'flowbite-svelte/TableBody.svelte';
	import TableHead from 'flowbite-svelte/TableHead.svelte';
	import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
	import { restoring, voiding } from '$lib/client/commands';
	import type { Reading } from '$lib/api/readings';
	import { markInWords } from '$lib/ui/bench/results';
	import { post } from '$lib/ui/outbox.svelte';
	import { dateAndTime } from '$lib/ui/when';
	import { inWords, seenAs } from '$lib/ui/wording';
	import { provedInWords } from '$lib/ui/words/checks';
	import Sideways from '$lib/ui/shell/Sideways.svelte';

	interface Props {
		readings: Reading[];
		/** How many there are with those that are not shown. */
		total: number;
		title: string;
		of: string;
		system: string;
		timeZone: string;
	}
	let { readings, total, title, of, system, timeZone }: Props = $props();

	let voided: { id: string; about: string } | undefined = $state();
	function takeOut(id: string, about: string) {
		post(voiding('readings', id, 'voided on the trends page', `voiding ${about}`));
		voided = { id, about };
	}
	function putBack() {
		if (!voided) return;
		post(restoring('readings', voided.id, `restoring ${voided.about}`));
		voided = undefined;
	}
</script>

<div class="mt-1 flex items-center gap-3 text-sm" aria-live="polite">
	{#if voided}
		<span>Voided: {voided.about}</span>
		<Button size="sm" color="alternative" onclick={putBack}>Undo</Button>
	{/if}
</div>
<Sideways name="{title} readings">
	<Table classes={{ div: 'overflow-x-visible' }}>
		<caption class="sr-only">{title} readings, newest first</caption>
		<TableHead>
			<TableHeadCell scope="col">When</TableHeadCell>
			<TableHeadCell scope="col">Value</TableHeadCell>
			<TableHeadCell scope="col">Seen</TableHeadCell>
			<TableHeadCell scope="col">Method</TableHeadCell>
			<TableHeadCell scope="col"><span class="sr-only">Change</span></TableHeadCell>
		</TableHead>
		<TableBody>
			<!-- Cells as such: as components of the furniture they took a tenth of the page's time. -->
			{#each readings as r (r.id)}
				<tr class="border-b border-rule last:border-b-0">
					<td class="p-2">
						{dateAndTime(r.takenAt, timeZone)}
					</td>
					<td class="figure p-2 font-medium">{inWords(r, r.unit)}</td>
					<td class="figure p-2 text-faint">
						{seenAs(r.raw)}
					</td>
					<td class="p-2 text-faint">
						{r.methodName}{r.ownChart ? '' : ' ○ no chart of its own yet'}{r.proof?.takenOff === undefined
							? ''
							: ` ◆ ${provedInWords(r.parameter, r.proof)}`}
						{#each r.marks ?? [] as mark, i (i)}<span class="block text-sm text-saffron"
								>▲ {markInWords(mark)}</span
							>{/each}
					</td>
					<td class="px-2 py-1 text-end">
						<button
							type="button"
							class="min-h-11 rounded-lg px-3 text-sm text-brick hover:bg-brick-wash"
							aria-label="Void {inWords(r, r.unit)} of {dateAndTime(r.takenAt, timeZone)}"
							onclick={() => takeOut(r.id, inWords(r, r.unit))}>Void</button
						>
					</td>
				</tr>
			{/each}
		</TableBody>
	</Table>
</Sideways>
{#if total > readings.length}
	<a class="link mt-2" href="/s/{system}/readings?of={of}">All {total} among the readings</a>
{/if}
