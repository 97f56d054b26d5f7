<script lang="ts">
	/** What of the book is shown; it stands in the address, so that it can be kept and sent. */
	import Select from 'flowbite-svelte/Select.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import { goto } from '$app/navigation';
	import { PARAMETERS } from '$core/catalogue';
	import type { BookFilter } from '$lib/api/book';
	import { dayStart } from './lines';
	import { DateTime } from 'luxon';

	interface Props {
		filter: BookFilter;
		measured: string[];
		sources: { id: string; name: string; kind: string }[];
		methods: { id: string; name: string; parameter: string }[];
		timeZone: string;
	}
	let { filter, measured, sources, methods, timeZone }: Props = $props();
	/** Kits for what was measured here, or for the one parameter that is looked for. */
	const kits = $derived(
		methods
			.filter((m) => (filter.parameter ? [filter.parameter] : measured).includes(m.parameter))
			.map(({ id, name }) => ({ id, name }))
	);
	function set(part: Partial<Record<keyof BookFilter, string>>) {
		const query = new URLSearchParams(
			Object.entries({ ...filter, ...part }).filter(([, value]) => value) as [string, string][]
		);
		void goto(`?${query}`, { keepFocus: true, noScroll: true, replaceState: true });
	}
	const dayOf = (at: string | undefined, earlier = 0) =>
		at ? DateTime.fromISO(at, { zone: timeZone }).minus({ days: earlier }).toISODate()! : '';
	/** On a phone it is folded away. */
	let unfolded = $state(false);
	const any = $derived(Object.values(filter).some(Boolean));
</script>

<button
	class="link md:hidden"
	aria-expanded={unfolded}
	aria-controls="find"
	onclick={() => (unfolded = !unfolded)}>{any ? 'Filtered by…' : 'Filter'}</button
>
<div
	id="find"
	class="flex flex-wrap items-end gap-2 text-sm text-faint {unfolded ? '' : 'max-md:hidden'}"
	role="search"
	aria-label="Find in the book"
>
	<Label
		>Parameter
		<Select
			class="w-32"
			placeholder=""
			value={filter.parameter ?? ''}
			onchange={(e) => set({ parameter: e.currentTarget.value })}
		>
			<option value="">all</option>
			{#each PARAMETERS.filter((p) => measured.includes(p.id)) as p (p.id)}<option value={p.id}
					>{p.title}</option
				>{/each}
		</Select></Label
	>
	<Label
		>Show
		<Select
			class="w-36"
			placeholder=""
			value={filter.show ?? ''}
			onchange={(e) => set({ show: e.currentTarget.value as BookFilter['show'] & string })}
		>
			<option value="">what counts</option>
			<option value="unusual">what does not fit</option>
			<option value="voided">what was voided</option>
			<option value="all">everything</option>
		</Select></Label
	>
	<Label
		>Lines
		<Select
			class="w-40"
			placeholder=""
			value={filter.lines ?? ''}
			onchange={(e) => set({ lines: e.currentTarget.value as BookFilter['lines'] & string })}
		>
			<option value="">tests and events</option>
			<option value="readings">tests</option>
			<option value="events">events</option>
		</Select></Label
	>
	{#if sources.length > 1}
		<Label
			>Water
			<Select
				class="w-32"
				placeholder=""
				value={filter.source ?? ''}
				onchange={(e) => set({ source: e.currentTarget.value })}
			>
				<option value="">all</option>
				{#each sources as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
			</Select></Label
		>
	{/if}
	<Label
		>Method
		<Select
			class="w-32"
			placeholder=""
			value={filter.method ?? ''}
			onchange={(e) => set({ method: e.currentTarget.value })}
		>
			<option value="">all</option>
			{#each kits as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
			{#if filter.method && !kits.some((m) => m.id === filter.method)}<option value={filter.method}
					>the one chosen</option
				>{/if}
		</Select></Label
	>
	<Label
		>From
		<Input
			type="date"
			class="w-33! px-2"
			value={dayOf(filter.from)}
			onchange={(e) => set({ from: e.currentTarget.value && dayStart(e.currentTarget.value, timeZone) })}
		/></Label
	>
	<Label
		>To
		<Input
			type="date"
			class="w-33! px-2"
			value={dayOf(filter.to, 1)}
			onchange={(e) => set({ to: e.currentTarget.value && dayStart(e.currentTarget.value, timeZone, 1) })}
		/></Label
	>
	<Label
		>Words
		<Input
			type="search"
			class="w-32! px-2"
			maxlength={100}
			placeholder="kit, note, who"
			value={filter.words ?? ''}
			onchange={(e) => set({ words: e.currentTarget.value.trim() })}
		/></Label
	>
	{#if any}<a class="link" href="?">Clear the filter</a>{/if}
</div>
