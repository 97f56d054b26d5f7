<script lang="ts">
	/** Lines typed or pasted from a leaflet become a scale: the fit drawn, lines that do not fit named. */
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Textarea from 'flowbite-svelte/Textarea.svelte';
	import { chart, parseLines, type ChartResult } from '$core/calibration';
	import { formatUnit } from '$core/quantities';

	interface Props {
		parameter: string;
		unit: string;
		reads: 'syringe' | 'drops';
		fillMl: number;
		onuse: (result: ChartResult) => void;
	}
	let { parameter, unit, reads, fillMl, onuse }: Props = $props();

	let text = $state('');
	const typed = $derived(parseLines(text));
	const outcome = $derived(
		typed.points.length < 3
			? undefined
			: chart({
					parameter,
					unit,
					reads,
					points: typed.points,
					...(reads === 'syringe' ? { syringe: { fillMl } } : {})
				})
	);
	const fit = $derived(outcome?.ok ? outcome.value : undefined);
	const suspects = $derived(new Set(fit?.suspects.map((s) => s.index)));

	const xs = $derived(typed.points.map((p) => p[0]));
	const ys = $derived(typed.points.map((p) => p[1]));
	const px = (x: number) =>
		40 + (300 * (x - Math.min(...xs))) / Math.max(1e-9, Math.max(...xs) - Math.min(...xs));
	const py = (y: number) =>
		170 - (150 * (y - Math.min(...ys))) / Math.max(1e-9, Math.max(...ys) - Math.min(...ys));
	const line = $derived.by(() => {
		if (!fit) return '';
		if (fit.scale.kind === 'table') return fit.scale.points.map(([x, y]) => `${px(x)},${py(y)}`).join(' ');
		const per = fit.perMl ?? fit.perDrop ?? 0;
		const zero = fit.scale.atZero;
		return [Math.min(...xs), Math.max(...xs)]
			.map((x) => `${px(x)},${py(zero + per * (fit.readAs === 'left' ? fillMl - x : x))}`)
			.join(' ');
	});
	const lineName = (index: number) => `line ${typed.lineOf[index]}`;
</script>

<div class="grid gap-4 md:grid-cols-2">
	<Label>
		Lines of the leaflet’s chart: reading, then value
		<Textarea
			class="figure h-52 w-full border-rule bg-sheet text-base text-ink dark:border-rule dark:bg-sheet dark:text-ink"
			bind:value={text}
			spellcheck="false"
			data-leaflet
			placeholder={reads === 'syringe' ? '1.00  0\n0.90  1.6\n0.80  3.2\n…' : '4  60\n8  120\n…'}
			aria-describedby="leaflet-said"
		></Textarea>
	</Label>
	<div id="leaflet-said" aria-live="polite" class="text-sm">
		{#each typed.problems.slice(0, 3) as problem (problem.path)}<p class="text-brick">
				▲ {problem.message}
			</p>{/each}
		{#if outcome && !outcome.ok}
			{#each outcome.problems.slice(0, 3) as problem (problem.path + problem.message)}<p class="text-brick">
					▲ {problem.message}
				</p>{/each}
		{:else if !fit}
			<p class="text-faint">
				Three lines are enough; more find mistakes. What the leaflet rounds is made exact again.
			</p>
		{:else}
			<p>
				{#if fit.linear}
					Straight: <span class="figure">{(fit.perMl ?? fit.perDrop ?? 0).toPrecision(4)}</span>
					{formatUnit(unit)} for each {reads === 'syringe' ? 'mL used' : 'drop'}.
				{:else}
					A curve: kept as its {fit.scale.kind === 'table' ? fit.scale.points.length : 0} lines.
				{/if}
				{#if fit.readAs}It goes by what is <strong>{fit.readAs}</strong>.{/if}
				Rounded to {fit.rounding}.
			</p>
			{#each fit.suspects as suspect (suspect.index)}
				<p class="mt-1 rounded bg-saffron-wash px-2 py-1" data-suspect>
					▲ {lineName(suspect.index)[0]!.toUpperCase() + lineName(suspect.index).slice(1)} does not fit:
					{typed.points[suspect.index]?.[1]} should probably be {suspect.expected}. It is left out.
				</p>
			{/each}
			<svg
				viewBox="0 0 360 190"
				class="mt-2 w-full max-w-md"
				role="img"
				aria-label="The chart’s lines and the fit through them"
			>
				<polyline points={line} fill="none" stroke="var(--liquid)" stroke-width="2.5" />
				{#each typed.points as [x, y], i (i)}
					{#if suspects.has(i)}
						<path
							d="M{px(x) - 6} {py(y) + 5} h12 l-6 -11 z"
							fill="none"
							stroke="var(--brick)"
							stroke-width="2"
						/>
					{:else}
						<circle cx={px(x)} cy={py(y)} r="3.5" fill="var(--plum)" />
					{/if}
				{/each}
				<text x="40" y="187" font-size="12" fill="var(--faint-ink)">{Math.min(...xs)}</text>
				<text x="340" y="187" text-anchor="end" font-size="12" fill="var(--faint-ink)">{Math.max(...xs)}</text
				>
				<text x="34" y="24" text-anchor="end" font-size="12" fill="var(--faint-ink)">{Math.max(...ys)}</text>
				<text x="34" y="174" text-anchor="end" font-size="12" fill="var(--faint-ink)">{Math.min(...ys)}</text>
			</svg>
			<Button class="mt-2" onclick={() => fit && onuse(fit)}>Use this scale</Button>
		{/if}
	</div>
</div>
