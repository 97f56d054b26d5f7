<script lang="ts">
	/** One line that takes any test as people write it, and says what it understood while it is typed. */
	import Label from 'flowbite-svelte/Label.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import { expressedIn, read, type Method } from '$core/methods';
	import { unitFor } from '$lib/ui/habits';
	import { parseQuick, type Quick } from '$core/quick';
	import { inWords } from '$lib/ui/wording';

	let { methods, ontake }: { methods: Method[]; ontake: (line: Quick) => void } = $props();

	let text = $state('');
	const understood = $derived(text.trim() === '' ? undefined : parseQuick(text, methods, unitFor));
	const said = $derived.by(() => {
		if (!understood) return '';
		if (!understood.ok) return `▲ ${understood.problems[0]?.message}`;
		const { methodId, reading, sample, parameter } = understood.value;
		const method = methods.find((m) => m.id === methodId)!;
		const result = read({ method, reading, ...(sample ? { sample } : {}) });
		if (!result.ok) return `${method.name}: ${result.problems[0]?.message}`;
		const unit = unitFor(parameter);
		return `${method.name}: ${inWords(expressedIn(result.value, parameter, unit), unit)}. Enter puts it on the instrument.`;
	});

	function take(event: Event) {
		event.preventDefault();
		if (!understood?.ok) return;
		ontake(understood.value);
		text = '';
	}
</script>

<form class="relative min-w-0 flex-1 max-md:basis-full" onsubmit={take}>
	<Label class="flex items-center gap-2">
		Quick
		<Input
			class="min-w-0 flex-1"
			bind:value={text}
			data-quick
			autocomplete="off"
			spellcheck="false"
			placeholder="alk left 0,46 · ca 17 drops · po4 38 ppb P"
			aria-describedby="quick-said"
		/>
	</Label>
	<p
		id="quick-said"
		aria-live="polite"
		class="absolute inset-x-0 top-12 z-10 rounded-lg bg-sheet px-3 py-2 text-sm shadow {said
			? ''
			: 'hidden'} {understood && !understood.ok ? 'text-brick' : 'text-ink'}"
	>
		{said}
	</p>
</form>
