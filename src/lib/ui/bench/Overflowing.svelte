<script lang="ts">
	/** Results above the last patch of their card: the same again, diluted. */
	import Button from 'flowbite-svelte/Button.svelte';
	import Alert from 'flowbite-svelte/Alert.svelte';
	import type { Run } from '$core/run';
	import type { Dilution } from '$core/instruments';
	import type { Choice } from './choices';
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
	<Alert color="amber" class="m-3 flex flex-wrap items-center" data-testid="overflow">
		<span class="flex-1"
			>▲ {titles[result.test.id]} lies above the last patch. Dilute it 1 in 10 and look again?</span
		>
		<Button onclick={() => onadd(choice, THINNED)}>Add it, diluted</Button>
	</Alert>
{/each}
