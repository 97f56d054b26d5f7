<script lang="ts">
	/** A reading from a picture of the instrument: the picture, what is marked in it, what it says, and the keeper's last word. */
	import { onDestroy } from 'svelte';
	import Button from 'flowbite-svelte/Button.svelte';
	import type { ColourResult } from '$core/colour';
	import type { Method, ShadeByEye } from '$core/methods';
	import type { CardMarks, PhotoMarks, PlungerResult, ScaleEnds, Spot } from '$core/picture';
	import { formatUnit } from '$core/quantities';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { openEye } from './eye-worker';
	import type { PhotoDraft } from '$lib/ui/instruments/photo-drafts';
	import { printedShades, type Draft } from '$lib/ui/instruments/draft-reading';
	import { written } from '$lib/ui/instruments/syringe-text';
	import { figures, numeral } from '$lib/ui/habits';
	import { distanceInWords, flagsInWords, plungerFlags, shadeInWords } from '$lib/ui/words/eye';
	import type { Opened } from '$lib/workers/eye.worker';
	import {
		asShares,
		cardHandles,
		cardOutlines,
		firstEnds,
		firstMarks,
		moved,
		type Handle,
		type Outline
	} from './marking';
	import Marks from './Marks.svelte';
	import Source from './Source.svelte';

	interface Props {
		method: Method;
		/** Marks are remembered for the kit. */
		methodId: string;
		/** The instrument as it stands: what the eye said by itself. */
		draft: Draft;
		/** Another picture than a new one: that of a reading, to be read again. */
		given?: { picture: Blob; marks: PhotoMarks | null } | undefined;
		onread: (part: Partial<Draft>, photo: Omit<PhotoDraft, 'at'>) => void;
		onclose: () => void;
		/** Keeps the colours as the kit's own card; where the kit is the keeper's. */
		oncolours?: ((colours: string[]) => Promise<string>) | undefined;
	}
	let { method, methodId, draft, given, onread, onclose, oncolours }: Props = $props();

	const values = $derived(method.reads === 'shades' ? printedShades(method, draft) : []);
	const form = $derived(method.reads === 'shades' ? (method.form ?? 'card') : 'card');
	const card = $derived(method.reads === 'shades' ? { values, form } : undefined);
	// The parent makes this anew for another kit.
	// svelte-ignore state_referenced_locally
	const memory = `eye.${methodId}`;

	const eye = openEye();
	onDestroy(eye.close);

	let opened: Opened | undefined = $state.raw();
	let marks: CardMarks | undefined = $state.raw();
	let ends: ScaleEnds | undefined = $state.raw();
	let shade: ColourResult | undefined = $state.raw();
	let plunger: PlungerResult | undefined = $state.raw();
	let problem = $state('');
	let busy = $state(false);
	let found = $state(false);
	let live = $state('');
	let coloured = $state('');

	function begin(
		outcome: Awaited<ReturnType<typeof eye.ask<'open'>>>,
		remembered = readDraft<PhotoMarks>(memory)
	) {
		busy = false;
		if (!outcome.ok) {
			problem = outcome.problems[0]!.message;
			return;
		}
		problem = '';
		opened = outcome.value;
		found = opened.strip !== undefined;
		if (method.reads === 'shades')
			marks = firstMarks(opened, form, remembered, given ? undefined : opened.strip);
		else ends = firstEnds(opened, remembered);
		void read();
	}
	async function open(file: Blob, remembered?: PhotoMarks) {
		busy = true;
		begin(await eye.ask<'open'>({ open: file, card }), remembered);
	}
	async function average(frames: ImageBitmap[]) {
		busy = true;
		begin(await eye.ask<'frames'>({ frames, card }));
	}
	$effect(() => {
		if (given && !opened && !busy) void open(given.picture, given.marks ?? undefined);
	});

	/** Asked while the last answer is under way: asked once more when it is there. */
	let asking = false;
	let again = false;
	async function read() {
		if (asking) {
			again = true;
			return;
		}
		asking = true;
		if (marks && card) {
			const outcome = await eye.ask<'shades'>({ shades: marks, card });
			shade = outcome.ok ? outcome.value : undefined;
			problem = outcome.ok ? '' : outcome.problems[0]!.message;
		} else if (ends && method.reads === 'syringe') {
			const { fillMl, graduationMl } = method.syringe;
			const outcome = await eye.ask<'syringe'>({ syringe: { ...ends }, fillMl, graduationMl });
			plunger = outcome.ok ? outcome.value : undefined;
			problem = outcome.ok ? '' : outcome.problems[0]!.message;
		}
		asking = false;
		if (again) {
			again = false;
			void read();
		}
	}
	function move(id: string, to: Spot) {
		if (marks) marks = moved(marks, id, to);
		else if (ends) ends = { ...ends, [id]: to };
		void read();
	}

	/** The camera's picture read as it runs, by the marks this kit was given last. */
	async function look(frame: ImageBitmap) {
		const remembered = readDraft<PhotoMarks>(memory);
		if (!card) {
			frame.close();
			return;
		}
		const first = firstMarks(frame, form, remembered, undefined);
		const outcome = await eye.ask<'live'>({ live: frame, marks: first, card });
		live = !outcome.ok
			? ''
			: !outcome.value.strip && remembered?.of !== 'shades'
				? 'Card and vial side by side before white paper; the card is not seen yet.'
				: `${shadeInWords(outcome.value.result, values)}${outcome.value.strip ? '' : ', by the marks of last time'}`;
	}

	const handles = $derived<Handle[]>(
		marks
			? cardHandles(marks)
			: ends
				? [
						{ id: 'zero', label: 'the scale’s zero, at the tip', at: ends.zero },
						{ id: 'full', label: 'the scale’s full line', at: ends.full }
					]
				: []
	);
	const drawn = $derived(marks ? cardOutlines(marks, values, form) : undefined);
	const outlines = $derived<Outline[]>(
		drawn?.outlines ?? (ends ? [{ id: 'scale', name: '', points: [ends.zero, ends.full], open: true }] : [])
	);
	/** A line across the barrel at a share of the scale. */
	const across = (share: number) => {
		const { zero, full } = ends!;
		const [dx, dy] = [full.x - zero.x, full.y - zero.y];
		const at = { x: zero.x + share * dx, y: zero.y + share * dy };
		return { x1: at.x - dy * 0.07, y1: at.y + dx * 0.07, x2: at.x + dy * 0.07, y2: at.y - dx * 0.07 };
	};

	const said = $derived(shade ? shadeInWords(shade, values) : undefined);
	const flags = $derived(shade ? flagsInWords(shade, values) : plunger ? plungerFlags(plunger) : []);
	const usable = $derived(shade?.position || (plunger && plunger.left !== null));
	/** What the eye said before the camera: a marker that stood on the card. */
	const byEye = $derived.by((): ShadeByEye | undefined => {
		if (method.reads !== 'shades' || draft.seenShade) return draft.eye;
		const [numbers, place] = draft.text.replaceAll(',', '.').split('@');
		const [low, high] = (numbers ?? '').split('-').map((n) => values.indexOf(Number(n)));
		if (low === undefined || low < 0 || numbers?.trim() === '') return undefined;
		if (high !== undefined && high === low + 1)
			return { between: [values[low]!, values[high]!], position: place === undefined ? 0.5 : Number(place) };
		return low < values.length - 1
			? { between: [values[low]!, values[low + 1]!], position: 0 }
			: { between: [values[low - 1]!, values[low]!], position: 1 };
	});
	const eyeInWords = (e: ShadeByEye) =>
		shadeInWords(
			{ position: { between: e.between, at: e.position }, qualifier: '=' } as ColourResult,
			values
		);

	async function use() {
		if (!opened) return;
		const kept = asShares((marks ?? ends)!, opened);
		keepDraft(memory, kept);
		const picture = await eye.ask<'keep'>({ keep: true });
		const photo = { picture: picture.ok ? picture.value : '', marks: kept };
		if (shade?.position) {
			const { between, at } = shade.position;
			const position = Number(at.toFixed(2));
			const text =
				shade.qualifier === '<'
					? `<${values[0]}`
					: shade.qualifier === '>'
						? `>${values.at(-1)}`
						: `${between[0]}-${between[1]} @ ${position.toFixed(2)}`;
			onread(
				{
					text,
					placed: true,
					seenShade: {
						between,
						position,
						stepUncertainty: Number((shade.stepUncertainty ?? 0.5).toPrecision(3)),
						distance: Number((shade.distance ?? 0).toFixed(2))
					},
					eye: byEye
				},
				photo
			);
		} else if (plunger && plunger.left !== null && method.reads === 'syringe') {
			const { fillMl, graduationMl } = method.syringe;
			const left = Number(plunger.left.toFixed(4));
			onread(
				{
					text: written(
						draft.readAs === 'left' ? left : Number((fillMl - left).toFixed(4)),
						graduationMl / 10
					),
					seenPlunger: {
						left,
						standardUncertainty: Number((plunger.standardUncertainty ?? graduationMl).toPrecision(3))
					}
				},
				photo
			);
		}
	}
	async function keepColours() {
		if (shade && oncolours) coloured = await oncolours(shade.colours);
	}
	async function trial() {
		const { trialPicture } = await import('./trial');
		return trialPicture(method);
	}
	function another() {
		opened = marks = ends = shade = plunger = undefined;
		problem = coloured = '';
	}
</script>

<section class="eye" aria-label="Reading from a picture" data-testid="eye">
	<div class="flex items-center justify-between gap-2">
		<h2>
			{method.reads === 'shades' ? 'The vial and its card in one picture' : 'The syringe along its barrel'}
		</h2>
		<Button color="alternative" class="min-h-11" onclick={onclose}>Close</Button>
	</div>
	<div class="body">
		<div class="min-w-0">
			{#if opened}
				<Marks
					picture={opened.shown}
					{handles}
					{outlines}
					onmove={move}
					label="What is marked in the picture"
				>
					{#snippet over(unit)}
						{#each drawn?.patches ?? [] as patch, i (i)}
							<circle
								cx={patch.at.x}
								cy={patch.at.y}
								r={5 * unit}
								fill="none"
								stroke="#fdf6e8"
								stroke-width={2 * unit}
							/>
						{/each}
						{#if ends && plunger?.at.plunger != null}
							<line {...across(plunger.at.plunger)} stroke="#33211f" stroke-width={6 * unit} opacity="0.5" />
							<line
								{...across(plunger.at.plunger)}
								stroke="#f2c14e"
								stroke-width={3 * unit}
								data-testid="plunger-line"
							/>
						{/if}
						{#if ends && plunger?.lines && plunger.flags.includes('ends-unsure')}
							{#each plunger.ends as end (end)}<line
									{...across(end)}
									stroke="#6b2a5b"
									stroke-width={3 * unit}
								/>{/each}
						{/if}
						{#if ends && plunger?.at.liquid != null}
							<line
								{...across(plunger.at.liquid)}
								stroke="#fdf6e8"
								stroke-width={2 * unit}
								stroke-dasharray="{6 * unit} {5 * unit}"
							/>
						{/if}
					{/snippet}
				</Marks>
			{:else if !given}
				<Source
					onfile={open}
					onframes={average}
					{trial}
					onlive={method.reads === 'shades' ? look : undefined}
					said={live}
					{busy}
				/>
			{:else}
				<p class="text-faint">Looking at the picture…</p>
			{/if}
		</div>
		<div class="said" aria-live="polite">
			{#if problem}<p class="text-brick" role="alert">▲ {problem}</p>{/if}
			{#if shade}
				<p class="text-2xl font-semibold" data-testid="seen">
					{said!.charAt(0).toUpperCase() + said!.slice(1)}
				</p>
				{#if shade.value !== null && shade.standardUncertainty !== null}
					<p>
						<span class="figure text-xl"
							>{figures(shade.value, 3)}
							<span class="text-faint">± {figures(1.96 * shade.standardUncertainty, 2)}</span></span
						>
						{formatUnit(method.unit)}, on the card
					</p>
				{/if}
				{#if shade.distance !== null && usable}
					<p class="text-sm text-faint">
						ΔE {numeral(shade.distance, 1)}: {distanceInWords(shade.distance)}.
					</p>
				{/if}
				{#if byEye}<p class="mt-1 text-sm" data-testid="by-eye">
						Your eye: {eyeInWords(byEye)}.
					</p>{:else if !given}
					<p class="mt-1 text-sm text-faint">
						To train your eye, match on the card first, then take the picture: both are kept.
					</p>
				{/if}
			{:else if plunger && method.reads === 'syringe'}
				{#if plunger.left !== null}
					<p class="text-2xl font-semibold" data-testid="seen">
						<span class="figure">{numeral(plunger.left, 3)}</span> mL left
						<span class="figure text-lg text-faint"
							>± {numeral(1.96 * (plunger.standardUncertainty ?? 0), 3)}</span
						>
					</p>
					<p class="text-sm text-faint">
						used <span class="figure">{numeral(method.syringe.fillMl - plunger.left, 3)}</span> mL. The full
						line stands on the plunger’s edge{plunger.liquid === null
							? ''
							: `, the dashed one on the liquid (${numeral(plunger.liquid, 2)}): that is not read`}.
					</p>
				{/if}
			{/if}
			{#each flags as flag (flag)}<p class="mt-1 text-sm text-saffron" data-flag>▲ {flag}</p>{/each}
			{#if opened}
				<p class="mt-2 text-sm text-faint">
					{#if marks}
						{found
							? 'The card was found by itself.'
							: 'Drag the four corners onto the outer edges of the patches, palest first.'}
						Then the liquid and white paper beside it{marks.zero ? ', and the untreated vial' : ''}. Marks are
						remembered for this kit.
					{:else}
						Drag one end onto the line at 0 and one onto the full line, in the middle of the barrel: half a
						line is near enough.
					{/if}
				</p>
				<div class="mt-3 flex flex-wrap gap-2">
					<Button class="min-h-14 px-6 text-lg" disabled={!usable} onclick={use} data-testid="use"
						>Use this</Button
					>
					{#if !given}<Button color="alternative" class="min-h-14" onclick={another}>Another picture</Button
						>{/if}
					{#if oncolours && shade && usable && shade.cast === 'none'}
						<Button color="alternative" class="min-h-14" onclick={keepColours}
							>Draw the card in these colours</Button
						>
					{/if}
				</div>
				{#if coloured}<p class="mt-1 text-sm" role="status">{coloured}</p>{/if}
				<p class="mt-2 text-sm text-faint">
					You have the last word: move the instrument afterwards, or close this and match by eye.
				</p>
			{:else}
				<ul class="list-disc ps-5 text-sm text-faint">
					{#if method.reads === 'shades'}
						<li>Card and vial side by side before white paper, in the same light.</li>
						<li>Daylight or a white lamp; no tank lamp, no flash on the vial.</li>
						<li>At the moment the leaflet says: a colour still growing reads too low.</li>
					{:else}
						<li>The barrel straight across the picture, the whole scale in it.</li>
						<li>Against white paper; digits may stand on their head.</li>
					{/if}
				</ul>
			{/if}
		</div>
	</div>
</section>

<style>
	.eye {
		border: 1px solid var(--rule);
		border-radius: 12px;
		background: var(--sheet);
		padding: 0.8rem 1rem 1rem;
		margin-bottom: 1rem;
	}
	.body {
		display: grid;
		grid-template-columns: minmax(0, 3fr) minmax(16rem, 2fr);
		gap: 1.2rem;
		margin-top: 0.5rem;
	}
	@media (max-width: 48rem) {
		.body {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
