<script lang="ts">
	/** What the keeper counts in: guessed from the browser's language, one key to accept. */
	import { page } from '$app/state';
	import { goto } from '$app/navigation';
	import HabitsForm from '$lib/ui/account/HabitsForm.svelte';
	import { language, usualUnits } from '$lib/ui/habits';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const tank = $derived(
		data.systems.find((s) => s.id === page.url.searchParams.get('tank')) ?? data.systems[0]
	);
	const next = $derived(tank ? `/s/${tank.id}/shelf/new` : '/begin');
	const start = { ...data.habits, units: { ...usualUnits(language()), ...data.habits.units } };
</script>

<Title of="Your units" />
<div class="mx-auto max-w-2xl">
	<div class="mt-4 flex flex-wrap items-center gap-x-4">
		<h1>What you count in</h1>
		<span class="flex-1"></span>
		<a class="link flex min-h-11 items-center text-sm" href={next}>Later</a>
	</div>
	<p class="mt-1 mb-3 text-sm text-faint">
		Used wherever a number is shown or typed. You find it again in your account, by your name above.
	</p>
	<HabitsForm
		{start}
		now={data.now}
		timeZone={tank?.timeZone ?? 'UTC'}
		go="Go on to the shelf"
		autofocus
		ondone={() => goto(next, { invalidateAll: true })}
	/>
</div>
