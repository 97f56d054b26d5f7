<script lang="ts">
	/** A vial on the screen: lessons in the order in which hands go wrong, and what the hand is worth. Works without a network. */
	import { tick } from 'svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { LIGHTS, type Light } from '$core/photograph';
	import { keepStored, readStored } from '$lib/client/device-storage';
	import Technique from '$lib/ui/practice/Technique.svelte';
	import { LESSONS } from '$lib/ui/practice/lessons';
	import Running from '$lib/ui/practice/Running.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const lesson = $derived(LESSONS.find((l) => l.id === page.url.searchParams.get('lesson')));
	const next = $derived(lesson && LESSONS[LESSONS.indexOf(lesson) + 1]);
	const person = $derived(data.person?.id ?? '');

	const LAMP = 'tevrik.practice-lamp';
	let light: Light = $state('daylight');
	/** Lamps, tries and chance are this device's: the server draws none of them. */
	let here = $state(false);
	$effect(() => {
		light = readStored<Light>(LAMP) ?? 'daylight';
		here = true;
	});
	let turn = $state(0);
	const seedOf = (n: number) => (Date.now() + 7919 * n) % 4_294_967_295;
	const seed = $derived(seedOf(turn));
	const to = (id?: string) => {
		turn++;
		return goto(id ? `?lesson=${id}` : '?', { noScroll: false });
	};
	/** Back among the lessons the keyboard stands on the one that was left. */
	async function leave() {
		const left = lesson?.id;
		await to();
		await tick();
		document.querySelector<HTMLElement>(`a[href="?lesson=${left}"]`)?.focus();
	}
</script>

<Title of={lesson ? [lesson.title, 'Practice'] : 'Practice'} />

{#if lesson && here}
	{#key `${lesson.id} ${turn}`}
		<Running
			{lesson}
			{light}
			{person}
			{seed}
			onagain={() => turn++}
			onnext={next ? () => to(next.id) : undefined}
			onleave={() => void leave()}
		/>
	{/key}
{:else if !lesson}
	<h1 class="text-2xl">Practice</h1>
	<p class="mt-1 max-w-prose text-faint">
		A vial that behaves as a real one does, with a truth at the end of each lesson. Nothing here reaches a
		tank’s book.
	</p>
	<fieldset class="my-4">
		<legend class="mb-1 text-sm">The lamp you stand under</legend>
		<div class="flex flex-wrap gap-2">
			{#each Object.keys(LIGHTS) as Light[] as lamp (lamp)}
				<label class="lamp">
					<input
						type="radio"
						name="lamp"
						value={lamp}
						bind:group={light}
						onchange={() => void keepStored(LAMP, lamp)}
						class="accent-[var(--plum)]"
					/>
					{lamp}
				</label>
			{/each}
		</div>
	</fieldset>
	<ol class="grid gap-3 sm:grid-cols-2 xl:grid-cols-3">
		{#each LESSONS as l, i (l.id)}
			<li>
				<a href="?lesson={l.id}" class="lesson" onclick={() => turn++}>
					<span class="figure text-faint" aria-hidden="true">{i + 1}</span>
					<span>
						<strong>{l.title}</strong>
						<span class="block text-sm text-faint">{l.why}</span>
						<span class="text-sm">{l.minutes} min</span>
					</span>
				</a>
			</li>
		{/each}
	</ol>
	{#if here}
		<Technique system={data.system.id} {person} habits={data.habits} mayWrite={data.person !== null} />
	{/if}
{/if}

<style>
	.lesson {
		display: flex;
		min-height: 100%;
		gap: 0.75rem;
		padding: 0.9rem;
		border: 1px solid var(--rule);
		border-radius: 14px;
		background: var(--sheet);
	}
	.lesson:hover {
		border-color: var(--plum);
	}
	.lamp {
		display: flex;
		min-height: 44px;
		align-items: center;
		gap: 0.5rem;
		padding: 0 0.8rem;
		border: 1px solid var(--glass);
		border-radius: 10px;
	}
</style>
