<script lang="ts">
	/** What stands on the shelf to be poured: what it does here, what is left, how long that lasts. */
	import { invalidateAll } from '$app/navigation';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import { compositionOf } from '$core/adjust';
	import { parameterOf } from '$core/catalogue';
	import { DAY, type Problem } from '$core/base';
	import type { ShelfSupplement } from '$lib/api/supplements';
	import { below } from '$lib/client/api';
	import { removeSupplement, saveSupplement, takeSupplement } from '$lib/client/commands';
	import { takeFile } from './shared-file';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { figures } from '$lib/ui/habits';
	import { volumeFor, volumeUnit } from '$lib/ui/mine';
	import { monthOf } from '$lib/ui/when';
	import { changeInWords } from '$lib/ui/words/adjust';
	import { plural } from '$lib/ui/words/plural';

	interface Props {
		bottles: ShelfSupplement[];
		system: { id: string; netVolumeL: number; timeZone: string };
		now: string;
	}
	let { bottles, system, now }: Props = $props();

	let refused: Problem[] = $state([]);
	let gone: ShelfSupplement | undefined = $state();
	/** Soon enough to order, days. */
	const SOON = 14;

	function rowOf(b: ShelfSupplement) {
		const its = compositionOf(b.profile);
		if (!its.ok)
			return { title: '', does: `▲ ${its.problems[0]?.message ?? ''}. No plan uses it.`, left: '' };
		const { main, raises, per } = its.value;
		const own = parameterOf(main);
		const ten = (10 * (raises[main] ?? 0)) / system.netVolumeL;
		const left =
			b.left === null
				? ''
				: `${figures(b.left)} ${per} left${
						b.lastsDays === null
							? ''
							: b.lastsDays < SOON
								? `, enough for ${plural(Math.floor(b.lastsDays), 'day')}`
								: `, enough until ${monthOf(new Date(Date.parse(now) + b.lastsDays * DAY), system.timeZone)}`
					}`;
		return {
			title: own?.title ?? main,
			does: `10 ${per} in ${figures(volumeFor(system.netVolumeL))} ${volumeUnit()}: ${changeInWords(main, ten, own?.plausible[0] ?? 0)}`,
			left
		};
	}
	async function finish(b: ShelfSupplement) {
		const done = await removeSupplement(b.id);
		refused = done.ok ? [] : done.problems;
		if (!done.ok) return;
		gone = b;
		await invalidateAll();
	}
	async function putBack() {
		if (!gone) return;
		const { id, profile, amount, opened } = gone;
		const done = await saveSupplement(id, {
			profile,
			...(amount === undefined ? {} : { amount }),
			...(opened === undefined ? {} : { opened })
		});
		refused = done.ok ? [] : done.problems;
		if (!done.ok) return;
		gone = undefined;
		await invalidateAll();
	}
	async function take(event: Event) {
		refused = [];
		refused = await takeFile(event, async (profile) => {
			const taken = await takeSupplement(uuid(), profile);
			if (!taken.ok) return below('/profile', taken.problems);
			await invalidateAll();
			return [];
		});
	}
</script>

<section id="pour" class="mt-8" aria-label="To pour">
	<div class="flex flex-wrap items-center gap-3">
		<h2>To pour</h2>
		<span class="flex-1"></span>
		<Button href="/s/{system.id}/shelf/pour">Add something to pour</Button>
		<label
			class="flex min-h-11 cursor-pointer items-center rounded-lg border px-4 text-sm font-medium hover:bg-plum-wash"
		>
			Import a file of it
			<input type="file" accept=".json,application/json" class="sr-only" onchange={take} />
		</label>
	</div>
	{#each refused as problem (problem.path + problem.message)}
		<Trouble says="{problem.path} {problem.message}" />
	{/each}
	{#if gone}
		<p class="mt-2 flex items-center gap-3 text-sm" role="status">
			{gone.profile.name} is off the shelf.
			<Button size="sm" color="alternative" onclick={putBack}>Undo</Button>
		</p>
	{/if}
	{#if bottles.length}
		<ul class="mt-2 grid gap-3 sm:grid-cols-2 xl:grid-cols-4" data-testid="bottles">
			{#each bottles as b (b.id)}
				{@const row = rowOf(b)}
				<li class="flex flex-col rounded-xl border bg-sheet p-3">
					<p class="text-sm text-faint">{row.title}</p>
					<h3 class="leading-tight font-semibold">{b.profile.name}</h3>
					<p class="mt-1 text-sm">{row.does}</p>
					<p class="flex-1 text-sm text-faint">{row.left}</p>
					<div class="mt-1 flex flex-wrap gap-1">
						<a class="act" href="/s/{system.id}/shelf/pour?of={b.id}">Change</a>
						<a class="act" href="/api/v1/supplements/{b.id}" download>File</a>
						<button
							type="button"
							class="act"
							aria-label="{b.profile.name} is used up"
							onclick={() => finish(b)}>Used up</button
						>
					</div>
				</li>
			{/each}
		</ul>
	{:else}
		<p class="mt-2 max-w-prose">
			Bottles, bags and solutions you pour: each by its label’s sentence, by your recipe, or as a pure salt.
			Plans are made with what stands here.
		</p>
	{/if}
	<p class="mt-2 max-w-prose text-sm text-faint">
		A file holds one of them in the open format tevrik.supplement/1; its <a
			class="text-plum underline"
			href="/api/v1/supplements/schema">schema</a
		> says what may stand in it.
	</p>
</section>

<style>
	.act {
		display: inline-flex;
		align-items: center;
		justify-content: center;
		min-height: 2.75rem;
		min-width: 2.75rem;
		padding: 0 0.6rem;
		border-radius: 8px;
		font-size: 0.875rem;
		color: var(--plum);
	}
	.act:hover {
		background: var(--plum-wash);
	}
</style>
