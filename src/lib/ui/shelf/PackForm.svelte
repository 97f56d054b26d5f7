<script lang="ts">
	/** A pack of reagents put on the shelf: its letter is what syringe and bottles are marked with. */
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import { savePack } from '$lib/client/commands';
	import type { Problem } from '$core/base';

	interface Props {
		methodId: string;
		pack: { tests: number; price: number } | undefined;
		today: string;
		taken: string[];
		ondone: () => void;
	}
	let { methodId, pack, today, taken, ondone }: Props = $props();

	const id = uuid();
	const letter = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].find((l) => !taken.includes(l)) ?? 'AA';
	// svelte-ignore state_referenced_locally
	let form = $state({
		label: letter,
		batch: '',
		opened: today,
		bestBefore: '',
		tests: pack?.tests ?? 50,
		price: pack?.price ?? 0
	});
	let problems: Problem[] = $state([]);

	async function save(event: Event) {
		event.preventDefault();
		const { bestBefore, ...rest } = form;
		const saved = await savePack(id, {
			methodId,
			...rest,
			...(bestBefore ? { bestBefore } : {})
		});
		if (saved.ok) return ondone();
		problems = saved.problems;
	}
</script>

<form class="grid w-full grid-cols-2 gap-2 rounded-lg bg-paper p-2 text-sm" onsubmit={save} data-pack>
	<Label>Mark <Input bind:value={form.label} maxlength={4} required /></Label>
	<Label>Batch <Input bind:value={form.batch} maxlength={60} /></Label>
	<Label>Opened <Input type="date" bind:value={form.opened} required /></Label>
	<Label>Best before <Input type="date" bind:value={form.bestBefore} /></Label>
	<Label>Tests <Input type="number" min="1" bind:value={form.tests} required /></Label>
	<Label>Price <Input type="number" min="0" step="0.01" bind:value={form.price} required /></Label>
	{#each problems as problem (problem.path)}
		<p class="col-span-2 text-brick" role="alert">▲ {problem.path.slice(1)} {problem.message}</p>
	{/each}
	<Button type="submit" class="col-span-2">Put it on the shelf</Button>
</form>
