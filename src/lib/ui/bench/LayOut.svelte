<script lang="ts">
	/** What to put on the table before the first drop falls. */
	import type { RunTest } from '$core/run';
	import type { Method } from '$core/instruments';
	import { needsVial } from './choices';
	import { stepsOf } from '$core/run';

	/** Water drawn for each mL tested: vials are rinsed with it. */
	const WITH_RINSING = 1.5;

	interface Props {
		tests: RunTest[];
		/** What each is called, by its id. */
		titles: Record<string, string>;
		methodOf: (versionId: string) => Method;
		/** What another water than the session’s is called. */
		waterName: (sourceId: string) => string | undefined;
	}
	let { tests, titles, methodOf, waterName }: Props = $props();

	const rows = $derived(
		tests.map((t) => {
			const method = methodOf(t.methodVersionId);
			const steps = stepsOf(method, t.thinned);
			const shared = tests.find((o) => o.id !== t.id && o.vial === t.vial && t.after?.includes(o.id));
			const ml = t.thinned
				? t.thinned.sampleMl
				: (method.samples?.[0]?.ml ?? drawn(steps.map((s) => s.label)));
			return {
				...t,
				method,
				shared,
				ml: shared || !needsVial(steps) ? undefined : ml,
				vialled: needsVial(steps),
				things: [...new Set(steps.flatMap((s) => s.uses ?? []))]
			};
		})
	);
	/** What is drawn of each water, the session’s own first. */
	const waters = $derived(
		[undefined, ...new Set(rows.flatMap((r) => r.sourceId ?? []))].flatMap((id) => {
			const ml = rows.reduce((sum, r) => sum + (r.sourceId === id ? (r.ml ?? 0) : 0), 0);
			return ml > 0
				? [{ ml, name: id === undefined ? 'the water' : (waterName(id) ?? 'another water') }]
				: [];
		})
	);

	/** How much a method without stated sample sizes draws, from the words of its step. */
	function drawn(labels: string[]): number | undefined {
		const found = labels.map((l) => /(\d+(?:[.,]\d+)?) mL of the water/.exec(l)?.[1]).find(Boolean);
		return found === undefined ? undefined : Number(found.replace(',', '.'));
	}
</script>

<ul class="grid gap-x-6 sm:grid-cols-2" data-testid="layout">
	{#each rows as row (row.id)}
		<li class="flex items-center gap-3 border-b py-1.5">
			<span class="vial" class:none={!row.vialled} aria-hidden="true">{row.vialled ? row.vial : ''}</span>
			<span class="min-w-0 flex-1">
				{titles[row.id]}
				<span class="block text-sm text-faint">
					{#if row.shared}
						goes on in vial {row.vial}
					{:else if row.vialled}
						vial {row.vial}{row.ml ? `, ${row.ml} mL` : ''}{row.thinned
							? ` with ${row.thinned.waterMl} mL of purified water`
							: ''}
					{:else}
						no vial
					{/if}
					{row.letter ? ` · kit ${row.letter}` : ''}{row.things.length ? ` · ${row.things.join(', ')}` : ''}
				</span>
			</span>
		</li>
	{/each}
</ul>
<p class="mt-2 text-sm text-faint">
	{#each waters as { ml, name }, i (name)}{i ? ' and' : 'Draw about'}
		<span class="figure text-ink">{Math.ceil((ml * WITH_RINSING) / 10) * 10} mL</span> of {name}{/each}{waters.length
		? ', rinsing included.'
		: ''} Goggles and gloves where a leaflet asks for them.
</p>

<style>
	.vial {
		display: inline-flex;
		align-items: end;
		justify-content: center;
		width: 1.7rem;
		height: 2.4rem;
		border: 2px solid var(--glass);
		border-top-width: 5px;
		border-radius: 3px 3px 9px 9px;
		background: linear-gradient(transparent 40%, color-mix(in srgb, var(--liquid) 45%, transparent) 40%);
		font-weight: 700;
		font-size: 0.95rem;
	}
	.none {
		visibility: hidden;
	}
</style>
