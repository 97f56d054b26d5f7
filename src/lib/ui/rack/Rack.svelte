<script lang="ts">
	/** A tank's parameters as tubes in a rack: where each stands, where it came from and where it is heading. */
	import * as say from '$messages/rack';
	import { DAY } from '$core/base';
	import { COVERAGE_95 } from '$core/statistics';
	import { formatUnit } from '$core/quantities';
	import { PARAMETERS, parametersWith } from '$core/catalogue';
	import { parameterFor } from '$lib/ui/habits';
	import { CHAIN, placeInBand, type Band } from '$core/targets';
	import type { TubeData } from '$lib/api/rack';
	import { bandScale } from '$lib/ui/band-scale';
	import Tube from './Tube.svelte';
	import StateChip from '$lib/ui/shell/StateChip.svelte';
	import { shownValue } from '$lib/ui/wording';

	interface Props {
		system: { id: string; phase?: string };
		tubes: Record<string, TubeData>;
		bands: Record<string, Band>;
		now: string;
		/** Which tubes, in which order; all that are measured where left out. */
		order?: string[];
	}
	let { system, tubes: measured, bands, now, order }: Props = $props();

	/** Tubes that stand in the rack even when empty. */
	const ALWAYS: string[] = parametersWith('always-shown');

	const tubes = $derived.by(() => {
		const all = PARAMETERS.map(({ id }) => {
			const parameter = parameterFor(id)!;
			const { last, ago, trail = [], trend, notYours, corrected } = measured[parameter.id] ?? {};
			return { parameter, last, ago, trail, trend, notYours, corrected, band: bands[parameter.id] };
		});
		if (order?.length) return order.flatMap((id) => all.find((t) => t.parameter.id === id) ?? []);
		const first = system.phase === 'cycling' ? CHAIN : [];
		const shown = all.filter((t) => t.last || [...first, ...ALWAYS].includes(t.parameter.id));
		const rank = (t: (typeof all)[number]) => (first.includes(t.parameter.id) ? 0 : t.last ? 1 : 2);
		return shown.sort((a, b) => rank(a) - rank(b));
	});
	/** The level now, as estimated; where there is no estimate, as read. */
	const levelOf = (t: (typeof tubes)[number]) =>
		t.notYours
			? undefined
			: t.trend
				? { value: t.trend.now.value, u: t.trend.now.standardDeviation }
				: t.last?.value != null
					? { value: t.last.value, u: t.last.standardUncertainty ?? 0 }
					: undefined;
	const trailOf = (trail: TubeData['trail']) =>
		trail.map(([at, value]) => ({ daysAgo: (Date.parse(now) - at) / DAY, value }));
</script>

<div class="rack">
	{#each tubes as t (t.parameter.id)}
		{@const { parameter, band, last, trend } = t}
		{@const level = levelOf(t)}
		{#if last}
			{@const place = level && band ? placeInBand(level.value, Math.max(level.u, 1e-9), band) : undefined}
			{@const words = level
				? shownValue({
						value: level.value,
						standardUncertainty: level.u,
						qualifier: '=',
						interval: [null, null]
					})
				: shownValue(last)}
			{@const read = shownValue(last)}
			<a class="tube" href={t.notYours ?? `/s/${system.id}/trends?of=${parameter.id}`} title={parameter.hint}>
				<span class="name">{parameter.title}</span>
				<span class="glass">
					<Tube
						id="{system.id}-{parameter.id}"
						shown={bandScale(parameter.shown, band)}
						{band}
						value={level?.value ?? null}
						halfWidth={COVERAGE_95 * (level?.u ?? 0)}
						state={place?.state}
						trail={trailOf(t.trail)}
						heading={(trend?.ahead ?? []).map(([mean, sd]) => ({ mean, halfWidth: COVERAGE_95 * sd }))}
					/>
				</span>
				<span class="words">
					<span class="figure level block leading-tight font-semibold">
						{words.value}
						<span class="block text-sm font-normal text-faint">{words.error} {formatUnit(last.unit)}</span>
					</span>
					{#if place}<span class="state block"><StateChip {place} /></span>{/if}
					{#if trend}
						<span class="mt-1 block text-sm leading-snug">{trend.heading}</span>
					{/if}
					{#if t.notYours}<span class="block text-sm">{say.exampleChart()}</span>{/if}
					<span class="mt-1 block text-sm leading-snug text-faint"
						>{say.tested({ ago: t.ago ?? '', value: read.value })}{t.corrected
							? ` ◆ ${t.corrected}`
							: ''}</span
					>
				</span>
			</a>
		{:else}
			<div class="tube quiet" title={parameter.hint}>
				<span class="name">{parameter.title}</span>
				<span class="glass">
					<Tube
						id="{system.id}-{parameter.id}"
						shown={bandScale(parameter.shown, band)}
						{band}
						value={null}
						halfWidth={0}
						state={undefined}
						trail={[]}
					/>
				</span>
				<span class="words text-sm text-faint">not measured yet</span>
			</div>
		{/if}
	{/each}
</div>

<style>
	.rack {
		display: flex;
		/* the shelf the tubes stand on, and the rail that holds them */
		background:
			linear-gradient(var(--rule), var(--rule)) 0 21.4rem / 100% 6px no-repeat,
			linear-gradient(var(--rule), var(--rule)) 0 5.4rem / 100% 2px no-repeat;
	}
	.tube {
		flex: 1.5 1 0;
		min-width: 0;
		max-width: 14rem;
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		grid-template-rows: 2rem 19.2rem auto;
		border-radius: 10px;
		padding: 0.25rem 0.4rem 0.5rem;
		/* Names and numbers are as large as a tube among ten has room for. */
		container-type: inline-size;
	}
	.tube.quiet {
		flex: 1 1 0;
		min-width: 0;
	}
	.glass {
		display: flex;
		justify-content: center;
		min-width: 0;
		min-height: 0;
	}
	a.tube:hover {
		background: color-mix(in srgb, var(--plum-wash) 55%, transparent);
	}
	.name {
		font-size: clamp(0.7rem, 17cqi, 1rem);
		overflow-wrap: anywhere;
		font-weight: 600;
		text-align: center;
		white-space: nowrap;
	}
	.state {
		font-size: clamp(0.75rem, 16cqi, 0.875rem);
	}
	.level {
		font-size: clamp(1rem, 25cqi, 1.5rem);
	}
	.quiet .name {
		font-size: clamp(0.65rem, 18cqi, 0.8rem);
		overflow: hidden;
		text-overflow: ellipsis;
		font-weight: 400;
		color: var(--faint-ink);
	}
	.words {
		padding-top: 0.75rem;
		text-align: center;
	}
	@media (max-width: 60rem) {
		.rack {
			display: block;
			background: none;
		}
		.tube,
		.tube.quiet {
			max-width: none;
			grid-template-columns: minmax(0, min(8.5rem, 36vw)) minmax(0, 1fr);
			grid-template-rows: auto 1fr;
			column-gap: 0.75rem;
			border-bottom: 1px solid var(--rule);
			border-radius: 0;
		}
		.name {
			text-align: left;
		}
		.words {
			grid-column: 2;
			grid-row: 2;
			padding-top: 0.25rem;
			text-align: left;
		}
		.name {
			white-space: normal;
			grid-column: 2;
			grid-row: 1;
		}
		.glass {
			grid-column: 1;
			grid-row: 1 / 3;
			height: 13rem;
		}
		.quiet .glass {
			height: 5.5rem;
		}
	}
</style>
