<script lang="ts">
	/** A reading from a picture of the instrument: the picture, what is marked in it, what it says, and the keeper's last word. */
	import { onDestroy } from 'svelte';
	import Button from 'flowbite-svelte/Button.svelte';
	import type { ColourResult } from '$core/colour';
	import type { Method } from '$core/instruments';
	import type { CardMarks, PhotoMarks, PlungerResult, ScaleEnds, Spot } from '$core/picture';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import type { SeenPhoto } from '$lib/client/photo-drafts';
	import type { Draft } from '$lib/ui/instruments/draft';
	import { printedShades, unitRead } from '$lib/ui/instruments/shades/draft';
	import { shadeInWords } from '$lib/ui/words/eye';
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
	import { eyeBefore, plungerTaken, shadeTaken } from './eye-answer';
	import { openEye } from './eye-worker';
	import Marks from './Marks.svelte';
	import Seen from './Seen.svelte';
	import Source from './Source.svelte';

	interface Props {
		method: Method;
		/** Marks are remembered for the kit. */
		methodId: string;
		/** The instrument as it stands: what the eye said by itself. */
		draft: Draft;
		/** Another picture than a new one: that of a reading, to be read again. */
		given?: { picture: Blob; marks: PhotoMarks | null } | undefined;
		onread: (part: Partial<Draft>, photo: SeenPhoto) => void;
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
	let sample = $state(false);
	let live = $state('');
	let coloured = $state('');

	function begin(
		outcome: Awaited<ReturnType<typeof eye.ask<'open'>>>,
		remembered: PhotoMarks | null = readDraft<PhotoMarks>(memory) ?? null
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
			marks = firstMarks(opened, form, remembered ?? undefined, given ? undefined : opened.strip);
		else ends = firstEnds(opened, remembered ?? undefined);
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

	const usable = $derived(!sample && !!(shade?.position ?? (plunger && plunger.left !== null)));
	const byEye = $derived(eyeBefore(method, draft));

	async function use() {
		if (!opened) return;
		const kept = asShares((marks ?? ends)!, opened);
		const taken = shade
			? shadeTaken(shade, byEye)
			: plunger && method.reads === 'syringe'
				? plungerTaken(plunger, method, draft.readAs)
				: undefined;
		if (!taken) return;
		keepDraft(memory, kept);
		const picture = await eye.ask<'keep'>({ keep: true });
		onread(taken, { picture: picture.ok ? picture.value : '', marks: kept });
	}
	async function keepColours() {
		if (shade && oncolours) coloured = await oncolours(shade.colours);
	}
	/** A picture that was never taken: it shows how it goes, and is kept nowhere. */
	async function trial() {
		busy = true;
		const { trialPicture } = await import('./trial');
		begin(await eye.ask<'open'>({ open: await trialPicture(method), card }), null);
		sample = true;
	}
	function another() {
		opened = marks = ends = shade = plunger = undefined;
		problem = coloured = '';
		sample = false;
	}
	/** Whoever opened it by keyboard is in it, and sees its beginning on a phone. */
	const begun = (section: HTMLElement) => {
		section.focus({ preventScroll: true });
		section.scrollIntoView({ block: 'start' });
	};
</script>

<svelte:window onkeydown={(e) => e.key === 'Escape' && onclose()} />

<section class="eye" aria-label="Reading from a picture" tabindex="-1" data-testid="eye" {@attach begun}>
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
			<div class="answer">
				<Seen
					shade={shade && method.reads === 'shades'
						? { result: shade, values, unit: unitRead(method, draft), eye: byEye }
						: undefined}
					plunger={plunger && method.reads === 'syringe'
						? { result: plunger, fillMl: method.syringe.fillMl }
						: undefined}
				/>
				{#if sample}<p class="mt-1 text-sm text-saffron">
						▲ A sample picture shows how it goes; it was never your water, and cannot be kept.
					</p>{/if}
			</div>
			{#if opened}
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
				{#if coloured}<p class="mt-1 text-sm" role="status">{coloured}</p>{/if}
				<p class="mt-2 text-sm text-faint">
					You have the last word: move the instrument afterwards, or close this and read by eye.{#if marks && !byEye && !given}
						To train your eye, match on the card first, then take the picture: both are kept.{/if}
				</p>
			{:else}
				<ul class="list-disc ps-5 text-sm text-faint">
					{#if method.reads === 'shades'}
						<li>Card and vial side by side before white paper, in the same light.</li>
						<li>Daylight or a white lamp; no tank lamp, no flash on the vial.</li>
						<li>At the moment the leaflet says: a colour still growing reads too low.</li>
					{:else}
						<li>The barrel straight across the picture, the whole scale in it.</li>
						<li>Against white paper; digits may be upside down.</li>
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
	.eye:focus {
		outline: none;
	}
	/* What it says may grow by a line while a mark is moved; the button below stays where the thumb expects it. */
	.answer {
		min-height: 9rem;
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
