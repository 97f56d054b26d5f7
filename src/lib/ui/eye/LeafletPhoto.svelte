<script lang="ts">
	/** A leaflet's chart from a picture: four corners, then its lines, each to be seen where it was read. */
	import { onDestroy } from 'svelte';
	import Button from 'flowbite-svelte/Button.svelte';
	import { leaflet, type Box, type Corners, type LeafletResult, type Spot } from '$core/picture';
	import { openEye } from './eye-worker';
	import { recognised } from './recognition';
	import type { Opened } from '$lib/workers/eye.worker';
	import Marks from './Marks.svelte';
	import Source from './Source.svelte';

	interface Props {
		/** The lines as they are now known, doubtful ones named by their number from 1. */
		onlines: (lines: [reading: string, value: string][], doubtful: number[]) => void;
		onclose: () => void;
	}
	let { onlines, onclose }: Props = $props();

	const eye = openEye();
	let stop = new AbortController();
	onDestroy(() => {
		stop.abort();
		eye.close();
	});

	let opened: Opened | undefined = $state.raw();
	let corners: Corners | undefined = $state.raw();
	let straight: ImageBitmap | undefined = $state.raw();
	let words: Awaited<ReturnType<typeof recognised>> = $state.raw();
	let result: LeafletResult | undefined = $state.raw();
	let progress: number | undefined = $state();
	let problem = $state('');
	let busy = $state(false);
	let column = $state(0);

	function begin(outcome: Awaited<ReturnType<typeof eye.ask<'open'>>>) {
		busy = false;
		if (!outcome.ok) {
			problem = outcome.problems[0]!.message;
			return;
		}
		problem = '';
		opened = outcome.value;
		const { width: w, height: h } = opened;
		corners = [
			{ x: 0.04 * w, y: 0.04 * h },
			{ x: 0.96 * w, y: 0.04 * h },
			{ x: 0.96 * w, y: 0.96 * h },
			{ x: 0.04 * w, y: 0.96 * h }
		];
	}
	async function open(file: Blob) {
		busy = true;
		begin(await eye.ask<'open'>({ open: file }));
	}
	async function average(frames: ImageBitmap[]) {
		busy = true;
		begin(await eye.ask<'frames'>({ frames }));
	}
	async function read() {
		stop = new AbortController();
		problem = '';
		progress = 0;
		const set = await eye.ask<'leaflet'>({ leaflet: corners!.map(({ x, y }) => ({ x, y })) as Corners });
		if (!set.ok) {
			problem = set.problems[0]!.message;
			progress = undefined;
			return;
		}
		progress = 0.05;
		try {
			const first = await recognised(set.value, (share) => (progress = 0.05 + 0.9 * share), stop.signal);
			const again = first && (await eye.ask<'glyphs'>({ glyphs: first }));
			words = again?.ok ? again.value : first;
		} catch {
			problem =
				'The text recognition could not be fetched. It needs the network once; type the lines, or try again.';
		}
		progress = undefined;
		straight = words && set.value.straight;
		understand();
	}
	function understand() {
		if (!words) return;
		const outcome = leaflet({ words: words.filter((w) => w.text), valueColumn: column });
		result = outcome.ok ? outcome.value : undefined;
		problem = outcome.ok ? '' : outcome.problems[0]!.message;
		if (!result) return;
		onlines(
			result.lines.map((l) => [l.reading.text, l.value.text]),
			result.lines.flatMap((l, i) => (l.reading.doubt || l.value.doubt ? [i + 1] : []))
		);
	}
	const NAMES = ['top left', 'top right', 'bottom right', 'bottom left'];
	const line = (l: LeafletResult['lines'][number]): Box => [
		Math.min(l.reading.box[0], l.value.box[0]),
		Math.min(l.reading.box[1], l.value.box[1]),
		Math.max(l.reading.box[2], l.value.box[2]),
		Math.max(l.reading.box[3], l.value.box[3])
	];
	const outlineOf = ([l, t, r, b]: Box): Spot[] => [
		{ x: l - 4, y: t - 3 },
		{ x: r + 4, y: t - 3 },
		{ x: r + 4, y: b + 3 },
		{ x: l - 4, y: b + 3 }
	];
</script>

<svelte:window onkeydown={(e) => e.key === 'Escape' && onclose()} />

<section
	class="mb-3 rounded-xl border bg-sheet p-3"
	aria-label="Leaflet from a picture"
	tabindex="-1"
	{@attach (section) => section.focus({ preventScroll: true })}
	data-testid="leaflet-photo"
>
	<div class="mb-2 flex items-center justify-between gap-2">
		<h3 class="font-semibold">The chart from a picture</h3>
		<Button color="alternative" class="min-h-11" onclick={onclose}>Close</Button>
	</div>
	{#if straight && result}
		<Marks
			picture={straight}
			handles={[]}
			outlines={[]}
			onmove={() => undefined}
			label="The chart with its lines"
		>
			{#snippet over(unit)}
				{#each result?.lines ?? [] as l, i (i)}
					{@const doubt = l.reading.doubt || l.value.doubt}
					<path
						d="M{outlineOf(line(l))
							.map(({ x, y }) => `${x} ${y}`)
							.join('L')}Z"
						fill={doubt ? '#f2c14e' : 'none'}
						fill-opacity="0.35"
						stroke={doubt ? '#b07a00' : '#6b2a5b'}
						stroke-width={1.5 * unit}
					/>
				{/each}
			{/snippet}
		</Marks>
		<p class="mt-2" role="status" data-testid="lines-read">
			{result.lines.length} lines read{result.lines.some((l) => l.reading.doubt || l.value.doubt)
				? '; those marked ▲ want a look'
				: ''}. They stand in the table: what does not fit its fellows is named there.
		</p>
		{#if result.valueColumns > 1}
			<fieldset class="mt-1">
				<legend class="text-sm text-faint">Which column of values is it</legend>
				<div class="flex gap-2">
					{#each Array.from({ length: result.valueColumns }, (_, i) => i) as i (i)}
						<button
							type="button"
							class="min-h-11 rounded-lg border px-3 text-sm aria-pressed:bg-plum-wash aria-pressed:font-semibold aria-pressed:text-plum"
							aria-pressed={column === i}
							onclick={() => {
								column = i;
								understand();
							}}>{['first', 'second', 'third', 'fourth'][i] ?? i + 1}</button
						>
					{/each}
				</div>
			</fieldset>
		{/if}
	{:else if opened && corners}
		<Marks
			picture={opened.shown}
			handles={corners.map((at, i) => ({ id: String(i), label: `chart’s corner ${NAMES[i]}`, at }))}
			outlines={[{ id: 'chart', name: '', points: corners }]}
			onmove={(id, to) => (corners = corners!.map((c, i) => (i === Number(id) ? to : c)) as Corners)}
			label="The chart in the picture"
		/>
		<div class="mt-2 flex flex-wrap items-center gap-2">
			{#if progress === undefined}
				<Button class="min-h-14 px-6 text-lg" onclick={read} data-testid="read-lines">Read the lines</Button>
				<Button color="alternative" class="min-h-14" onclick={() => (opened = undefined)}
					>Another picture</Button
				>
			{:else}
				<progress class="h-3 w-48" value={progress} aria-label="How far it is"></progress>
				<Button color="alternative" class="min-h-14" onclick={() => stop.abort()}>Stop</Button>
			{/if}
		</div>
		<p class="mt-1 text-sm text-faint">
			Drag the four corners around the chart alone: its columns of numbers, without headings or notes.
		</p>
	{:else}
		<Source onfile={open} onframes={average} {busy} />
		<p class="mt-1 text-sm text-faint">
			Flat, sharp, in even light. Two columns of numbers, or several side by side.
		</p>
	{/if}
	{#if problem}<p class="mt-1 text-sm text-brick" role="alert">▲ {problem}</p>{/if}
</section>
