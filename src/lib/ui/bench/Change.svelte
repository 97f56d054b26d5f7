<script lang="ts">
	/** Changes a session that runs: another test now, a wait cut, a step left out, a vial begun anew, a test added. */
	import { tick } from 'svelte';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { inHandOf, isOver, window as windowOf, type Moment, type Run, type RunningTest } from '$core/run';
	import { minutesAndSeconds, type Choice } from './choices';
	import type { RunLog } from './run-log.svelte';
	import MethodOptions from '$lib/ui/shelf/MethodOptions.svelte';

	interface Props {
		run: Run;
		moment: Moment | undefined;
		titles: Record<string, string>;
		vials: Record<string, number | undefined>;
		at: number;
		methods: Choice[];
		say: (happening: Parameters<RunLog['say']>[0]) => unknown;
		onadd: (method: Choice) => void;
		onclose: () => void;
		onfinish: () => void;
	}
	let { run, moment, titles, vials, at, methods, say, onadd, onclose, onfinish }: Props = $props();

	const nextOf = (test: RunningTest) => test.steps[test.done.length];
	const isCurrent = (test: RunningTest) => moment?.hands.some((h) => h.test === test.id) ?? false;
	function stateOf(test: RunningTest): string {
		if (test.dropped) return 'left out';
		if (isOver(test)) return test.taken ? 'read' : 'over';
		const span = windowOf(test);
		if (inHandOf(run, test)) return 'in hand';
		if (!span) return 'not begun';
		if (at < span.opens) return `stands ${minutesAndSeconds(span.opens - at)} more`;
		return span.closes !== undefined && at > span.closes
			? `late by ${minutesAndSeconds(at - span.closes)}`
			: 'ready';
	}

	/** The list says “choose…” again after each. */
	let adding = $state('');
	async function add(id: string) {
		const chosen = methods.find((m) => m.id === id);
		if (chosen) onadd(chosen);
		await tick();
		adding = '';
	}
</script>

<section id="change" class="change" aria-label="Change the evening">
	<div class="flex items-center gap-3">
		<h2 class="text-xl">Change the evening</h2>
		<Button class="ms-auto min-h-14 px-6" onclick={onclose}>Back to the step</Button>
	</div>
	<ul class="mt-2 divide-y border-y">
		{#each run.tests as test (test.id)}
			{@const next = nextOf(test)}
			<li class="py-2">
				<p>
					<strong>{titles[test.id]}</strong>{vials[test.id] === undefined ? '' : `, vial ${vials[test.id]}`}
					<span class="text-faint"
						>· {stateOf(test)}{next && !isOver(test) ? `; next: ${next.label}` : ''}</span
					>
				</p>
				<div class="mt-1 flex flex-wrap gap-2">
					{#if !isOver(test)}
						{#if !isCurrent(test)}
							<Button
								size="sm"
								color="alternative"
								onclick={() => {
									const span = windowOf(test);
									if (span && at < span.opens) say({ kind: 'early', test: test.id, step: test.done.length });
									say({ kind: 'start', test: test.id, step: test.done.length });
									onclose();
								}}>{(windowOf(test)?.opens ?? 0) > at ? 'Cut the wait, now' : 'Do this now'}</Button
							>
						{/if}
						<Button
							size="sm"
							color="alternative"
							onclick={() => say({ kind: 'skip', test: test.id, step: test.done.length })}
							>Skip this step</Button
						>
					{/if}
					{#if test.done.length}
						<Button
							size="sm"
							color="alternative"
							onclick={() => say({ kind: 'again', test: test.id, spoilt: !test.taken })}
							>{test.taken ? 'Repeat it, keep both' : 'Vial spoilt: begin again'}</Button
						>
					{/if}
					{#if !isOver(test)}
						<Button size="sm" color="alternative" onclick={() => say({ kind: 'drop', test: test.id })}
							>Leave it out</Button
						>
					{:else if test.dropped}
						<Button
							size="sm"
							color="alternative"
							onclick={() => say({ kind: 'again', test: test.id, spoilt: true })}>Add it back</Button
						>
					{/if}
				</div>
			</li>
		{/each}
	</ul>
	<div class="mt-3 flex flex-wrap items-end gap-3">
		<Label>
			Add a test
			<Select placeholder="" bind:value={adding} onchange={(e) => add(e.currentTarget.value)}>
				<option value="">choose…</option>
				<MethodOptions {methods} />
			</Select>
		</Label>
		<Button color="alternative" class="ms-auto" onclick={onfinish}>End the evening here</Button>
	</div>
</section>

<style>
	.change {
		padding: 1rem;
		max-width: 60rem;
		width: 100%;
		margin-inline: auto;
	}
</style>
