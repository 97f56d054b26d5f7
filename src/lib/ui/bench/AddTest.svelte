<script lang="ts">
	/** The list of tests that a session can have besides, duplicates and checks among them. */
	import { tick } from 'svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { ReferenceContent } from '$core/quality';
	import MethodOptions from '$lib/ui/shelf/MethodOptions.svelte';
	import type { Choice } from './choices';
	import { AT } from './wish';

	interface Props {
		methods: (Choice & { own?: boolean })[];
		sources: { id: string; name: string; content: ReferenceContent | null }[];
		/** What the session has already. */
		listed: string[];
		now: string;
		onadd: (entry: string) => void;
	}
	let { methods, sources, listed, now, onadd }: Props = $props();

	const others = $derived(methods.filter((m) => !listed.includes(m.id)));
	const again = $derived(methods.filter((m) => listed.includes(m.id)));
	/** Kits beside the waters whose content is known, fresh enough to tell. */
	const checks = $derived(
		sources.flatMap((s) =>
			s.content && (s.content.until ?? now) >= now.slice(0, 10)
				? methods
						.filter((m) => m.own && s.content!.values[m.profile.parameter])
						.map((m) => ({ entry: `${m.id}${AT}${s.id}`, name: `${m.profile.name}, with ${s.name}` }))
				: []
		)
	);

	/** It says “choose…” again after each. */
	let adding = $state('');
	async function add(entry: string) {
		if (entry) onadd(entry);
		await tick();
		adding = '';
	}
</script>

<Label class="mt-2">
	Add a test
	<Select placeholder="" bind:value={adding} onchange={(e) => add(e.currentTarget.value)}>
		<option value="">choose…</option>
		<MethodOptions methods={others} />
		{#if again.length}
			<optgroup label="In the list already: a second time, as a duplicate">
				{#each again as m (m.id)}<option value={m.id}>{m.profile.name}, once more</option>{/each}
			</optgroup>
		{/if}
		{#if checks.length}
			<optgroup label="Check a kit with known water">
				{#each checks as c (c.entry)}<option value={c.entry}>{c.name}</option>{/each}
			</optgroup>
		{/if}
	</Select>
</Label>
