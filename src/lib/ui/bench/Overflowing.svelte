<script lang="ts">
	/** Results above the last patch of their card: the same again, thinned. */
	import Button from 'flowbite-svelte/Button.svelte';
	import type { Run } from '$core/run';
	import type { Dilution } from '$core/methods';
	import type { Choice } from './evening';
	import type { Result } from './results';

	interface Props {
		run: Run;
		results: Result[];
		titles: Record<string, string>;
		methods: Choice[];
		onadd: (method: Choice, thinned: Dilution) => void;
	}
	let { run, results, titles, methods, onadd }: Props = $props();

	/** One part of the water in ten: what high-range tables beside low-range cards stand for. */
	const THINNED = { sampleMl: 1, waterMl: 9 };
	const offers = $derived(
		results.flatMap((r) => {
			const again = run.tests.some((t) => t.thinned && t.methodVersionId === r.test.methodVersionId);
			const choice = methods.find((m) => m.versionId === r.test.methodVersionId);
			return 'above' in r.taken.reading && !again && choice ? [{ result: r, choice }] : [];
		})
	);
</script>

{#each offers as { result, choice } (result.taken.readingId)}
	<div
		class="m-3 flex flex-wrap items-center gap-3 rounded-lg bg-saffron-wash p-3"
		role="alert"
		data-testid="overflow"
	>
		<span class="flex-1"
			>▲ {titles[result.test.id]} lies above the last patch. Thin it 1 in 10 and look again?</span
		>
		<Button class="min-h-11" onclick={() => onadd(choice, THINNED)}>Add it, thinned</Button>
	</div>
{/each}
