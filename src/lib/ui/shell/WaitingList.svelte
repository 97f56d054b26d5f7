<script lang="ts">
	/** Everything that waits on this device: what it waits for, and what can be done about what was refused. */
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Modal from 'flowbite-svelte/Modal.svelte';
	import { MINUTE, type Problem } from '$core/base';
	import { brokenEntries, dropBroken } from '$lib/client/device-storage';
	import { readPicture } from '$lib/client/pictures';
	import { valueAt, withValueAt } from '$lib/client/pending-write';
	import { drop, outbox, sendAgain, type PendingWrite } from '$lib/ui/outbox.svelte';
	import { saveFile } from '$lib/ui/save-file';

	let { open = $bindable() }: { open: boolean } = $props();

	const refused = $derived(outbox.waiting.filter((w) => w.problems));
	const waiting = $derived(outbox.waiting.filter((w) => !w.problems));
	const named = $derived(waiting.filter((w) => !w.quiet));
	const steps = $derived(waiting.length - named.length);

	/** What was put right so far, by write and place. */
	let corrected: Record<string, string> = $state({});
	const key = (w: PendingWrite, p: Problem) => `${w.id} ${p.path}`;
	const isField = (w: PendingWrite, p: Problem) =>
		['string', 'number'].includes(typeof valueAt(w.body, p.path));
	const shownAt = (w: PendingWrite, p: Problem) => corrected[key(w, p)] ?? String(valueAt(w.body, p.path));
	/** Names of fields as people say them: "/reading/left" is "left". */
	const nameOf = (p: Problem) =>
		p.path
			.split('/')
			.at(-1)!
			.replaceAll(/([A-Z])/g, ' $1')
			.toLowerCase();

	function again(w: PendingWrite) {
		let body = w.body;
		for (const p of w.problems ?? []) {
			const text = corrected[key(w, p)];
			if (text === undefined) continue;
			const number = Number(text.replace(',', '.'));
			const wasNumber = typeof valueAt(w.body, p.path) === 'number';
			body = withValueAt(
				body,
				p.path,
				wasNumber && text.trim() !== '' && !Number.isNaN(number) ? number : text
			);
		}
		sendAgain(w, body);
	}
	async function exportAll() {
		const waiting = await Promise.all(
			outbox.waiting.map(async ({ picture, ...write }) =>
				picture === undefined
					? write
					: { ...write, body: { ...(write.body as object), picture: await readPicture(picture) } }
			)
		);
		const all = { format: 'tevrik.outbox/1', waiting, unreadable: brokenEntries() };
		const href = URL.createObjectURL(
			new Blob([JSON.stringify(all, null, '\t')], { type: 'application/json' })
		);
		saveFile('tevrik-waiting.json', href);
		setTimeout(() => URL.revokeObjectURL(href), MINUTE);
	}
</script>

<Modal bind:open title="Waiting on this device" class="bg-sheet text-ink" data-testid="waiting-list">
	{#if outbox.state === 'sign in' && waiting.length}
		<p>
			◐ You were signed out. Nothing is lost: <a class="link" href="/signin">sign in</a> and it goes out.
		</p>
	{/if}
	{#if outbox.trouble.unstored}
		<p class="text-brick">
			▲ This device’s storage is full. {outbox.trouble.unstored === 1
				? 'One thing stands'
				: 'Some things stand'} only in this page: keep it open until the server has everything, or export it.
		</p>
	{/if}
	{#if outbox.trouble.broken}
		<div class="flex flex-wrap items-center gap-3">
			<p class="text-brick">
				▲ {outbox.trouble.broken === 1 ? 'One entry' : `${outbox.trouble.broken} entries`} on this device cannot
				be read. The rest goes on; export to look at it.
			</p>
			<Button size="sm" color="alternative" onclick={dropBroken}>Delete what is unreadable</Button>
		</div>
	{/if}
	{#each refused as write (write.id)}
		<section class="rounded-lg border p-3" data-refused={write.id}>
			<h3 class="font-semibold">▲ {write.about} was not taken</h3>
			{#each write.problems ?? [] as problem (problem.path)}
				{#if isField(write, problem)}
					<Label class="mt-2">
						<span class="text-sm">{nameOf(problem)} {problem.message}</span>
						<Input
							bind:value={() => shownAt(write, problem), (text) => (corrected[key(write, problem)] = text)}
						/>
					</Label>
				{:else}<p class="mt-1">{nameOf(problem)} {problem.message}</p>{/if}
			{/each}
			<div class="mt-3 flex flex-wrap gap-2">
				<Button size="sm" onclick={() => again(write)}>Send again</Button>
				<Button size="sm" color="alternative" onclick={() => drop(write.id)}>Drop it</Button>
			</div>
		</section>
	{/each}
	{#if named.length || steps}
		<p>
			◷ {#if outbox.state === 'away'}The server does not answer; it is tried again by itself.{:else}On the way
				to the server.{/if}
			{named.map((w) => w.about).join('; ')}{steps
				? `${named.length ? '; ' : ''}${steps} ${steps === 1 ? 'step' : 'steps'} of an evening`
				: ''}
		</p>
	{/if}
	{#if !refused.length && !waiting.length && !outbox.trouble.unstored && !outbox.trouble.broken}
		<p>● The server has everything.</p>
	{:else}
		<Button color="alternative" onclick={exportAll}>Export all of it as a file</Button>
	{/if}
</Modal>
