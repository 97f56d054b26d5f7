<script lang="ts">
	/** One line that takes any test as people write it, and says what it understood while it is typed. */
	import Label from 'flowbite-svelte/Label.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import { type Method } from '$core/instruments';
	import { expressedIn, read } from '$core/methods';
	import { unitFor } from '$lib/ui/habits';
	import { parseQuick, type Quick } from '$core/quick';
	import { currentTime } from '$lib/ui/clock';
	import { NO_MOMENT, momentOf } from '$lib/ui/forms/moment';
	import { dateAndTime } from '$lib/ui/when';
	import { inWords } from '$lib/ui/wording';

	interface Props {
		methods: Method[];
		now: string;
		timeZone: string;
		/** What was understood, and when it was read where that was said. */
		ontake: (line: Quick, at: string | undefined) => void;
	}
	let { methods, now, timeZone, ontake }: Props = $props();

	let text = $state('');
	const understood = $derived(text.trim() === '' ? undefined : parseQuick(text, methods, unitFor));
	const at = $derived(
		understood?.ok && understood.value.when
			? momentOf(understood.value.when, timeZone, currentTime(now))
			: undefined
	);
	const said = $derived.by(() => {
		if (!understood) return '';
		if (!understood.ok) return `▲ ${understood.problems[0]?.message}`;
		const { methodId, reading, sample, parameter } = understood.value;
		const method = methods.find((m) => m.id === methodId)!;
		const result = read({ method, reading, ...(sample ? { sample } : {}) });
		if (!result.ok) return `${method.name}: ${result.problems[0]?.message}`;
		if (at === null) return `▲ ${NO_MOMENT}`;
		const unit = unitFor(parameter);
		const then = at ? `, ${dateAndTime(at, timeZone)}` : '';
		return `${method.name}: ${inWords(expressedIn(result.value, parameter, unit), unit)}${then}. Enter puts it on the instrument.`;
	});

	function take(event: Event) {
		event.preventDefault();
		if (!understood?.ok || at === null) return;
		ontake(understood.value, at);
		text = '';
	}
</script>

<form class="relative min-w-0 flex-1 basis-72 max-md:basis-full" onsubmit={take}>
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
			: 'hidden'} {said.startsWith('▲') ? 'text-brick' : 'text-ink'}"
	>
		{said}
	</p>
</form>
