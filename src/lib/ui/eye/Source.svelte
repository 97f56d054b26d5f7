<script lang="ts">
	/** Where a picture comes from: the camera, a file, or, to try it, one that is made up. */
	import { onDestroy, tick } from 'svelte';
	import Button from 'flowbite-svelte/Button.svelte';
	import { framesOf, openCamera, type Camera } from './camera';

	interface Props {
		onfile: (file: Blob) => void;
		onframes: (frames: ImageBitmap[]) => void;
		/** Opens a made-up picture of this very instrument. */
		trial?: (() => void) | undefined;
		/** Called with a frame while the camera runs, again when it is done with the last. */
		onlive?: ((frame: ImageBitmap) => Promise<void>) | undefined;
		/** What was said of the live picture. */
		said?: string | undefined;
		busy: boolean;
	}
	let { onfile, onframes, trial, onlive, said, busy }: Props = $props();

	let camera: Camera | undefined = $state.raw();
	let problem = $state('');
	let lit = $state(false);
	let video: HTMLVideoElement | undefined = $state();
	let file: HTMLInputElement | undefined = $state();

	async function start() {
		problem = '';
		const opened = await openCamera();
		if (!opened.ok) {
			problem = opened.problems[0]!.message;
			return;
		}
		// Closed while the browser was still asking: no lamp of a camera stays on for nobody.
		if (over) return opened.value.close();
		camera = opened.value;
		camera.stream.getVideoTracks()[0]?.addEventListener('ended', lost);
		await tick();
		video!.srcObject = camera.stream;
		await video!.play().catch(() => undefined);
		void look(camera);
	}
	function lost() {
		stop();
		problem = 'The camera has stopped. Open it again, or choose a picture.';
	}
	/** One frame after the other, each when the last is answered: as fast as the device keeps up. */
	async function look(mine: Camera) {
		while (camera === mine && onlive) {
			// A frame that is not there just now is one less.
			const frame = video?.videoWidth ? await createImageBitmap(video).catch(() => undefined) : undefined;
			if (frame) await onlive(frame);
			await new Promise((next) => setTimeout(next, 150));
		}
	}
	async function take() {
		if (!video || !video.videoWidth) return;
		const frames = await framesOf(video).catch(() => []);
		if (!frames.length) return lost();
		stop();
		onframes(frames);
	}
	function stop() {
		camera?.close();
		camera = undefined;
	}
	let over = false;
	onDestroy(() => {
		over = true;
		stop();
	});
	function chosen(list: FileList | null | undefined) {
		const [picked] = list ?? [];
		if (picked) onfile(picked);
		if (file) file.value = '';
	}
</script>

<svelte:window
	onpaste={(e) => {
		const picked = [...(e.clipboardData?.files ?? [])].find((f) => f.type.startsWith('image/'));
		if (picked) onfile(picked);
	}}
/>

{#if camera}
	<div class="relative">
		<video
			bind:this={video}
			playsinline
			muted
			class="w-full rounded"
			style="max-height: 62vh; background: #000"
			aria-label="what the camera sees"
		></video>
		{#if said}<p class="mt-1 text-sm" role="status" data-testid="live">{said}</p>{/if}
	</div>
	<div class="mt-2 flex flex-wrap gap-2">
		<Button class="min-h-14 px-6 text-lg" onclick={take} data-testid="take">Take it</Button>
		{#if camera.torch}
			<Button
				color="alternative"
				class="min-h-14"
				aria-pressed={lit}
				onclick={() => {
					lit = !lit;
					void camera?.torch?.(lit);
				}}>{lit ? 'Light off' : 'Light on'}</Button
			>
		{/if}
		<Button color="alternative" class="min-h-14" onclick={stop}>Stop the camera</Button>
	</div>
{:else}
	<div
		class="rounded border border-dashed p-4"
		role="group"
		aria-label="Picture"
		ondragover={(e) => e.preventDefault()}
		ondrop={(e) => {
			e.preventDefault();
			chosen(e.dataTransfer?.files);
		}}
	>
		<div class="flex flex-wrap gap-2">
			<Button class="min-h-14 px-6 text-lg" onclick={start} disabled={busy}>Open the camera</Button>
			<Button color="alternative" class="min-h-14" onclick={() => file?.click()} disabled={busy}
				>Choose a picture</Button
			>
			{#if trial}
				<Button color="alternative" class="min-h-14" disabled={busy} onclick={trial}
					>Try a sample picture</Button
				>
			{/if}
		</div>
		<input
			bind:this={file}
			type="file"
			accept="image/*"
			class="sr-only"
			tabindex="-1"
			aria-label="Picture from a file"
			data-testid="picture-file"
			onchange={(e) => chosen(e.currentTarget.files)}
		/>
		<p class="mt-2 text-sm text-faint">
			{busy
				? 'Looking at it…'
				: 'It can be dropped or pasted here too. It is read on this device; only what you save leaves it.'}
		</p>
		{#if problem}<p class="mt-1 text-sm text-brick" role="alert">▲ {problem}</p>{/if}
	</div>
{/if}
