<script lang="ts">
	/** The pictures beside a reading: looked at, deleted, or read again with the kit as it is now. */
	import { v7 as uuid } from 'uuid';
	import type { Photo } from '$lib/api/photos';
	import type { BookReading } from '$lib/api/book';
	import type { Method } from '$core/instruments';
	import { call } from '$lib/client/api';
	import { correctingReading, savingPhoto, removePhoto } from '$lib/client/commands';
	import { draftOn, freshDraft, readingOf, type Draft } from '$lib/ui/instruments/draft';
	import { keepPicture } from '$lib/client/pictures';
	import { post } from '$lib/ui/outbox.svelte';
	import { readingFor } from '$lib/ui/mine';
	import { dateAndTime } from '$lib/ui/when';
	import { inWords } from '$lib/ui/wording';

	interface Props {
		line: BookReading;
		photos: Photo[];
		timeZone: string;
		mayWrite: boolean;
	}
	let { line, photos, timeZone, mayWrite }: Props = $props();

	let gone: Record<string, { picture: string } | undefined> = $state({});
	let back: Record<string, string | undefined> = $state({});
	let problem = $state('');
	let again: { photo: Photo; picture: Blob; method: Method; versionId: string } | undefined = $state.raw();
	const address = (photo: Photo) => `/api/v1/photos/${photo.id}` as const;

	const bytesOf = async (photo: Photo): Promise<Blob | undefined> => {
		const response = await fetch(address(photo)).catch(() => undefined);
		return response?.ok ? response.blob() : undefined;
	};
	async function base64(blob: Blob): Promise<string> {
		const text = await new Promise<string>((done) => {
			const reader = new FileReader();
			reader.onload = () => done(reader.result as string);
			reader.readAsDataURL(blob);
		});
		return text.slice(text.indexOf(',') + 1);
	}
	/** Deleted at once; what this page still holds can be put back. */
	async function remove(photo: Photo) {
		const blob = await bytesOf(photo);
		const done = blob && (await removePhoto(photo.id));
		problem = !done
			? 'The server does not answer. The picture is still there.'
			: done.ok
				? ''
				: done.problems[0]!.message;
		if (blob && done?.ok) gone = { ...gone, [photo.id]: { picture: await base64(blob) } };
	}
	/** As a new picture: what was deleted stays deleted, however late a device sends it. This page shows what it holds until then. */
	function putBack(photo: Photo) {
		const held = gone[photo.id];
		if (!held) return;
		const { id, at, marks } = photo;
		const key = uuid();
		void keepPicture(key, held.picture);
		post(savingPhoto(uuid(), { readingId: line.id, at, ...(marks ? { marks } : {}) }, key));
		gone = { ...gone, [id]: undefined };
		back = { ...back, [id]: `data:image/jpeg;base64,${held.picture}` };
	}
	async function readAgain(photo: Photo) {
		const [blob, mine] = await Promise.all([
			bytesOf(photo),
			call<{ methods: { id: string; versionId: string; profile: Method }[] }>('GET', '/api/v1/methods')
		]);
		const kit = mine.ok ? mine.value.methods.find((m) => m.id === line.methodId) : undefined;
		if (!blob || !kit) {
			problem = !blob ? 'The picture cannot be fetched now.' : 'The kit it was read by is not on your shelf.';
			return;
		}
		again = { photo, picture: blob, method: kit.profile, versionId: kit.versionId };
	}
	/** What the picture says now becomes a correction: what was kept before stays in the history. */
	function correct(part: Partial<Draft>) {
		if (!again) return;
		const draft = { ...freshDraft(again.method), ...draftOn(again.method, line.raw), ...part };
		const seen = readingOf(again.method, draft);
		if (!seen?.ok) {
			problem = seen?.problems[0]?.message ?? 'The picture says nothing that can be kept.';
			return;
		}
		post(
			correctingReading(
				line.id,
				{
					basedOn: line.revision,
					takenAt: line.takenAt,
					methodVersionId: again.versionId,
					reading: seen.value,
					...(line.sampleSize ? { sampleSize: line.sampleSize } : {}),
					...(line.takenAwayId ? { takenAwayId: line.takenAwayId } : {}),
					reason: 'read again from its picture'
				},
				`the correction of ${inWords(readingFor(line), readingFor(line).unit)}`
			)
		);
		again = undefined;
	}
</script>

{#if again}
	{#await import('$lib/ui/eye/Eye.svelte')}
		<p class="text-faint">Opening…</p>
	{:then { default: Eye }}
		<Eye
			method={again.method}
			methodId={line.methodId}
			draft={{ ...freshDraft(again.method), ...draftOn(again.method, line.raw) }}
			given={{ picture: again.picture, marks: again.photo.marks }}
			onread={correct}
			onclose={() => (again = undefined)}
		/>
	{:catch}
		<p class="text-brick" role="alert">▲ What reads pictures cannot be fetched without the network.</p>
	{/await}
{:else}
	<div class="mt-1 flex flex-wrap gap-3">
		{#each photos as photo (photo.id)}
			<figure class="text-sm" data-testid="photo">
				{#if gone[photo.id]}
					<p>
						Picture deleted. <button type="button" class="link" onclick={() => putBack(photo)}>Undo</button>
					</p>
				{:else}
					<a href={address(photo)} target="_blank" rel="noreferrer"
						><img
							src={back[photo.id] ?? address(photo)}
							alt="The instrument as it was read, {dateAndTime(photo.at, timeZone)}"
							loading="lazy"
							class="h-40 rounded border"
						/></a
					>
					<figcaption class="flex flex-wrap gap-3">
						{#if mayWrite}
							{#if photo.marks && !line.voided}<button
									type="button"
									class="link"
									onclick={() => readAgain(photo)}>Read it again</button
								>{/if}
							<button type="button" class="link" onclick={() => remove(photo)}>Delete the picture</button>
						{/if}
					</figcaption>
				{/if}
			</figure>
		{/each}
	</div>
{/if}
{#if problem}<p class="text-sm text-brick" role="alert">▲ {problem}</p>{/if}
