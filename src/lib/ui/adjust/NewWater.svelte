<script lang="ts">
	/** What new water has, and what a change of it brings. */
	import { invalidateAll } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import { afterChange } from '$core/adjust';
	import type { Problem } from '$core/base';
	import { COVERAGE_95 } from '$core/statistics';
	import { formatUnit } from '$core/quantities';
	import { titleOf, PLANNED } from '$core/catalogue';
	import { changeTank } from '$lib/client/commands';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { figures, typedAs, unitFor } from '$lib/ui/habits';
	import { changeFor, valueFor, volumeFor, volumeUnit } from '$lib/ui/mine';
	import { shownLevel } from '$lib/ui/wording';
	import Sideways from '$lib/ui/shell/Sideways.svelte';
	import type { Tank } from '$lib/api/systems';
	import { changeShown, newWaterKept, waterChangeOf, waterOf } from './new-water-draft';
	import type { WaterLevel } from './water-level';

	interface Props {
		system: Tank;
		levels: WaterLevel[];
	}
	let { system, levels }: Props = $props();

	const SIZES = [0.05, 0.1, 0.2, 0.3, 0.5, 1];
	const unitText = (id: string) => formatUnit(unitFor(id));

	// svelte-ignore state_referenced_locally
	const draft = $state(newWaterKept(system.waterChange));
	let problems: Problem[] = $state([]);
	/** The draft that was saved: as soon as another stands there it is not said any more. */
	let savedDraft = $state('');
	const saved = $derived(savedDraft === JSON.stringify(draft));
	const at = (path: string) => problems.find((p) => p.path === path)?.message;

	async function save(event: Event) {
		event.preventDefault();
		const sent = JSON.stringify(draft);
		const waterChange = waterChangeOf(draft);
		const done = waterChange.ok
			? await changeTank(system.id, { waterChange: waterChange.value })
			: waterChange;
		problems = done.ok ? [] : done.problems;
		if (!done.ok) return;
		savedDraft = sent;
		await invalidateAll();
	}

	const newWater = $derived(waterOf(draft.water).water);
	const shown = $derived(changeShown(draft));
	/** What one change brings, and where a change every so many days settles. */
	const rows = $derived(
		levels.flatMap(({ parameter, now, netPerDay }) => {
			const fresh = newWater[parameter];
			if (fresh === undefined) return [];
			const { after, settles } = afterChange(
				{
					parameter,
					now: now.mean,
					newWater: fresh,
					netPerDay,
					fraction: shown.percent / 100,
					everyDays: shown.everyDays
				},
				SIZES
			);
			const level = (value: number, sd = now.standardDeviation) =>
				shownLevel(valueFor(parameter, value), Math.abs(changeFor(parameter, COVERAGE_95 * sd, value)));
			return [
				{
					parameter,
					now: level(now.mean),
					// A row has as many digits as its level now; new water alone is as it was typed.
					after: after.map((value, i) =>
						SIZES[i] === 1 ? figures(valueFor(parameter, value), digits(parameter)) : level(value).value
					),
					settles: settles && level(settles.value, settles.standardDeviation)
				}
			];
		})
	);
	const digits = (parameter: string) => (unitFor(parameter).startsWith('SG') ? 5 : 3);

	const litres = (l: number) => `${figures(volumeFor(l))} ${volumeUnit()}`;
</script>

<section aria-label="Water changes" class="min-w-0">
	<h2 class="mt-3">Your new water</h2>
	<form onsubmit={save}>
		<div class="grid grid-cols-2 gap-x-4 sm:grid-cols-4">
			{#each PLANNED as p (p)}
				<Field
					name={p}
					label="{titleOf(p)}, {unitText(p)}"
					value={draft.water[p] ?? ''}
					inputmode="decimal"
					problem={at(`/water/${p}`)}
					oninput={(e) => (draft.water[p] = (e.currentTarget as HTMLInputElement).value)}
				/>
			{/each}
			<Field
				name="largest"
				label="Largest change, %"
				value={draft.largest}
				inputmode="decimal"
				problem={at('/largest')}
				oninput={(e) => (draft.largest = (e.currentTarget as HTMLInputElement).value)}
			/>
			<Field
				name="every"
				label="At most every, days"
				value={draft.every}
				inputmode="numeric"
				problem={at('/every')}
				oninput={(e) => (draft.every = (e.currentTarget as HTMLInputElement).value)}
			/>
			<Field
				name="cost"
				label="A litre costs"
				value={draft.cost}
				inputmode="decimal"
				problem={at('/cost')}
				oninput={(e) => (draft.cost = (e.currentTarget as HTMLInputElement).value)}
			/>
		</div>
		{#each problems.filter((p) => !['/largest', '/every', '/cost'].includes(p.path) && !p.path.startsWith('/water')) as problem (problem.path)}<Trouble
				says="{problem.path} {problem.message}"
			/>{/each}
		<p class="mt-3 flex items-center gap-3">
			<Button type="submit">Save</Button>
			{#if saved}<span class="text-sm text-moss" role="status">✓ Plans go by it now.</span>{/if}
		</p>
	</form>
	{#if rows.length}
		<h2 class="mt-6">What one change brings</h2>
		<Sideways name="What one change brings">
			<table class="mt-1 w-full text-sm" data-testid="brings">
				<caption class="sr-only">Each level now, after a change of each size, and kept up for ever</caption>
				<thead>
					<tr class="text-faint">
						<th class="py-1 text-start font-normal" scope="col">Level</th>
						<th class="py-1 text-end font-normal" scope="col">now</th>
						{#each SIZES as f (f)}<th class="py-1 ps-3 text-end font-normal whitespace-nowrap" scope="col"
								>{100 * f} %</th
							>{/each}
						<th class="py-1 ps-3 text-end font-normal" scope="col">always so</th>
					</tr>
				</thead>
				<tbody>
					{#each rows as row (row.parameter)}
						<tr class="border-t">
							<th class="py-1.5 text-start font-medium" scope="row"
								>{titleOf(row.parameter)}
								<span class="text-faint font-normal">{unitText(row.parameter)}</span></th
							>
							<td class="figure py-1.5 ps-3 text-end font-semibold whitespace-nowrap"
								>{row.now.value} {row.now.error}</td
							>
							{#each row.after as after, i (i)}<td class="figure py-1.5 ps-3 text-end">{after}</td>{/each}
							<td class="figure py-1.5 ps-3 text-end whitespace-nowrap text-plum"
								>{row.settles ? `${row.settles.value} ${row.settles.error}` : 'not known yet'}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</Sideways>
		<p class="mt-1 text-sm text-faint">
			A change of {typedAs(shown.percent)} % takes {litres((shown.percent / 100) * system.netVolumeL)} and moves
			each level {typedAs(shown.percent)} % of the way. “Always so”: where a change of {typedAs(
				shown.percent
			)} % every {shown.everyDays}
			days settles, with what the tank uses now.
		</p>
		<p class="mt-2 flex flex-wrap gap-x-4 text-sm">
			<a class="act" href="/s/{system.id}/bench/one?of={rows[0]!.parameter}"
				>Test before, to see what the tank did</a
			>
			<a
				class="act"
				href="/s/{system.id}/trends?{new URLSearchParams({
					of: rows[0]!.parameter,
					did: 'water-change',
					amount: `${typedAs(shown.percent)} %`
				})}">Write the change down</a
			>
			<a class="act" href="/s/{system.id}/bench/one?of={rows[0]!.parameter}"
				>Test after, to see what the change did</a
			>
		</p>
	{:else}
		<p class="mt-4 text-sm text-faint">
			Type what your new water has, and see here what a change of it brings.
		</p>
	{/if}
</section>

<style>
	.act {
		display: inline-flex;
		align-items: center;
		min-height: 2.75rem;
		color: var(--plum);
		text-decoration: underline;
	}
</style>
