<script lang="ts">
	import Button from 'flowbite-svelte/Button.svelte';
	import { COVERAGE_95 } from '$core/methods';
	import { PARAMETERS, formatUnit } from '$core/quantities';
	import { placeInBand } from '$core/targets';
	import { changeBetween } from '$core/trend';
	import type { Reading } from '$lib/api/readings';
	import { bandScale } from '$lib/ui/band-scale';
	import Tube from '$lib/ui/rack/Tube.svelte';
	import { daysAgo } from '$lib/ui/when';
	import { STATES, changeInShort, shownValue } from '$lib/ui/wording';

	let { data } = $props();

	/** Tubes that stand in the rack even when empty. */
	const ALWAYS = [
		'alkalinity',
		'calcium',
		'magnesium',
		'potassium',
		'nitrate',
		'phosphate',
		'salinity',
		'ph'
	];
	const DAY = 86_400_000;

	const tubes = $derived(
		PARAMETERS.map((parameter) => {
			const readings = data.readings.filter((r) => r.parameter === parameter.id);
			return { parameter, readings, last: readings[0], band: data.bands[parameter.id] };
		}).filter((t) => t.last || ALWAYS.includes(t.parameter.id))
	);
	/** What was measured longest ago. */
	const longest = $derived(
		[...tubes]
			.sort((a, b) => (a.last ? Date.parse(a.last.takenAt) : 0) - (b.last ? Date.parse(b.last.takenAt) : 0))
			.slice(0, 6)
	);
	const filled = $derived(tubes.filter((t) => t.last));
	const empty = $derived(tubes.filter((t) => !t.last));

	const placing = (r: Reading | undefined, band: { lower: number; upper: number } | undefined) =>
		r && band && r.value !== null && r.standardUncertainty !== null
			? placeInBand(r.value, r.standardUncertainty, band)
			: undefined;

	function change(readings: Reading[]) {
		const [later, earlier] = readings;
		if (later?.value == null || earlier?.value == null) return undefined;
		const judged = (r: Reading) => ({
			value: r.value!,
			standardUncertainty: r.standardUncertainty!,
			repeatability: r.repeatability!,
			methodId: r.methodId
		});
		return changeBetween(judged(earlier), judged(later));
	}

	const trail = (readings: Reading[]) =>
		readings
			.filter((r) => r.value !== null)
			.map((r) => ({ daysAgo: (Date.parse(data.now) - Date.parse(r.takenAt)) / DAY, value: r.value! }))
			.reverse();
</script>

<svelte:head><title>{data.system.name} · Rack · Tevrik</title></svelte:head>

<div class="grid gap-6 lg:grid-cols-[minmax(0,1fr)_15rem]">
	<section aria-label="Rack">
		<div class="flex flex-wrap items-baseline gap-x-3">
			<h1>{data.system.name}</h1>
			<p class="text-sm text-faint">{data.system.netVolumeL} L of water · ppm and mg/L mean the same here</p>
		</div>

		<div class="rack mt-3">
			{#each filled as { parameter, readings, last, band } (parameter.id)}
				{@const place = placing(last, band)}
				{@const words = shownValue(last!)}
				{@const step = change(readings)}
				<a class="tube" href="/s/{data.system.id}/trends?of={parameter.id}" title={parameter.hint}>
					<span class="name">{parameter.title}</span>
					<span class="glass">
						<Tube
							id={parameter.id}
							shown={bandScale(parameter.shown, band)}
							{band}
							value={last!.value}
							halfWidth={COVERAGE_95 * (last!.standardUncertainty ?? 0)}
							state={place?.state}
							trail={trail(readings)}
						/>
					</span>
					<span class="words">
						<span class="figure block text-2xl leading-tight font-semibold">
							{words.value}
							<span class="block text-sm font-normal text-faint">{words.error} {formatUnit(last!.unit)}</span>
						</span>
						{#if place}
							{@const state = STATES[place.state]}
							<span class="state {state.tone}"
								><span aria-hidden="true">{state.shape}</span> {state.word}</span
							>
						{/if}
						<span class="block text-sm text-faint"
							>{daysAgo(last!.takenAt, data.now, data.system.timeZone)}</span
						>
						{#if step}<span class="mt-1 block text-sm leading-snug"
								>{changeInShort(step, COVERAGE_95 * (last!.standardUncertainty ?? 0))}</span
							>{/if}
					</span>
				</a>
			{/each}
			{#each empty as { parameter, band } (parameter.id)}
				<div class="tube quiet" title={parameter.hint}>
					<span class="name">{parameter.title}</span>
					<span class="glass">
						<Tube
							id={parameter.id}
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
			{/each}
		</div>
	</section>

	<aside aria-label="What to do" class="lg:border-l lg:pl-5">
		<h2>At the bench</h2>
		{#if filled.length === 0}
			<p class="mt-2 text-sm">
				Each tube fills when its parameter is measured: the level, how sure it is, and where your band lies.
				Begin with alkalinity; it moves fastest.
			</p>
		{/if}
		<ul class="mt-2 divide-y">
			{#each longest as { parameter, last } (parameter.id)}
				<li class="flex items-center justify-between gap-3 py-2">
					<span>
						<span class="font-medium">{parameter.title}</span>
						<span class="block text-sm text-faint">
							{last
								? `last measured ${daysAgo(last.takenAt, data.now, data.system.timeZone)}`
								: 'never measured'}
						</span>
					</span>
					<Button
						size="sm"
						class="min-h-11"
						color={last ? 'alternative' : 'primary'}
						href="/s/{data.system.id}/bench/one?of={parameter.id}"
						aria-label="Measure {parameter.title.toLowerCase()}">Measure</Button
					>
				</li>
			{/each}
		</ul>
	</aside>
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
		font-weight: 600;
		text-align: center;
	}
	.quiet .name {
		font-weight: 400;
		color: var(--faint-ink);
	}
	.words {
		padding-top: 0.75rem;
		text-align: center;
	}
	.state {
		display: inline-block;
		margin-top: 0.25rem;
		white-space: nowrap;
		padding: 0.05rem 0.5rem;
		border-radius: 99px;
		font-size: 0.875rem;
		color: var(--ink);
	}
	.moss {
		background: var(--moss-wash);
	}
	.saffron {
		background: var(--saffron-wash);
	}
	.brick {
		background: var(--brick-wash);
	}
	@media (max-width: 60rem) {
		.rack {
			display: block;
			background: none;
		}
		.tube,
		.tube.quiet {
			max-width: none;
			grid-template-columns: 8.5rem 1fr;
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
