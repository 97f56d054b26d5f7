<script lang="ts">
	/**
	 * A vial under a syringe or a bottle, to be pressed, swirled and stopped: by drag, wheel, thumb, keys, or by shaking the phone. The scene is a
	 * canvas that is drawn as the page draws; everything on it can be done by the buttons too.
	 */
	import Button from 'flowbite-svelte/Button.svelte';
	import { untrack } from 'svelte';
	import type { Attachment } from 'svelte/attachments';
	import { soundColour, type ColourSound } from './colour-sound';
	import { belongsElsewhere, pressesFocused } from './keys';
	import { SCENE, drawScene, partAt } from './scene';
	import {
		begin,
		heard,
		leafletColours,
		refilled,
		tick,
		touched,
		type Start,
		type VialBench
	} from './vial-bench';
	import type { PracticeKit } from './kits';

	interface Props {
		kit: PracticeKit;
		start: Start;
		/** A phone that rings in the middle of it. */
		phone?: boolean;
		onstop: (bench: VialBench) => void;
	}
	let { kit, start, phone = false, onstop }: Props = $props();

	let bench: VialBench = untrack(() => begin(kit, start));
	const leaflet = untrack(() => leafletColours(bench));
	/** What a held key or button presses with: it drips at first and grows, as a thumb does. */
	const HELD = { from: 0.24, perSecond: 0.09, hard: 0.85 };
	/** Pixels of dragging for the whole force, and of a wheel. */
	const DRAG = 240;
	const WHEEL = 900;
	/** A wheel's push lasts so long, s. */
	const PUSH_LASTS = 0.3;
	/** Pixels a second of a vial swirled well, and what shakes a phone as well, m/s². */
	const SWIRLED = 500;
	const SHAKEN = 9;
	/** After so many drops the phone rings. */
	const RINGS_AT = 6;

	let pressing: 'held' | 'hard' | undefined;
	let pressedFor = 0;
	let dragForce = 0;
	let wheelForce = 0;
	let swirling = false;
	let swirlPush = 0;
	let slant = $state(untrack(() => start.slant ?? 0));
	let ringing = $state(false);
	let rang = false;
	let sound: ColourSound | undefined = $state();
	let said = $state('');
	let empty = $state(false);
	const startedDrops = bench.fallen;

	const press = (how: 'held' | 'hard' | undefined) => {
		pressing = how;
		pressedFor = 0;
	};

	const scene: Attachment<HTMLCanvasElement> = (canvas) => {
		const ctx = canvas.getContext('2d', { alpha: false });
		if (!ctx) return;
		let last = performance.now();
		let spoken = 0;
		let frame = requestAnimationFrame(function draw(now) {
			const seconds = Math.max(0, (now - last) / 1000);
			last = now;
			step(seconds);
			const scale = canvas.width / SCENE.width;
			ctx.setTransform(scale, 0, 0, scale, 0, 0);
			drawScene(ctx, bench, now / 1000);
			if (sound) {
				sound.say(bench.look.turned, bench.look.plumeTurned);
				// Words no faster than they can be heard.
				if (now - spoken > 1200) {
					spoken = now;
					said = heard(bench);
				}
			}
			frame = requestAnimationFrame(draw);
		});
		const sized = new ResizeObserver(() => {
			const ratio = Math.min(2, devicePixelRatio || 1);
			canvas.width = Math.round(canvas.clientWidth * ratio);
			canvas.height = Math.round((canvas.width * SCENE.height) / SCENE.width);
		});
		sized.observe(canvas);
		// A wheel that presses must not scroll, and a listener of a template is passive.
		canvas.addEventListener('wheel', wheel, { passive: false });
		return () => {
			cancelAnimationFrame(frame);
			sized.disconnect();
			canvas.removeEventListener('wheel', wheel);
			sound?.stop();
		};
	};

	function step(seconds: number) {
		if (pressing) pressedFor += seconds;
		const held =
			pressing === 'hard' ? HELD.hard : pressing ? Math.min(1, HELD.from + HELD.perSecond * pressedFor) : 0;
		wheelForce *= Math.exp(-seconds / PUSH_LASTS);
		swirlPush *= Math.exp(-seconds / PUSH_LASTS);
		const force = ringing ? 0 : Math.min(1, Math.max(held, dragForce, wheelForce));
		bench = tick(bench, { force, swirl: Math.min(1, swirling ? 1 : swirlPush), slant }, seconds);
		const none = bench.syringe.edge < 1e-6 && kit.reads === 'syringe';
		if (none !== empty) empty = none;
		if (phone && !rang && bench.fallen - startedDrops >= RINGS_AT) {
			rang = ringing = true;
			press(undefined);
			dragForce = 0;
		}
	}

	let grabbed: { part: 'syringe' | 'vial'; x: number; y: number; at: number; slant: number } | undefined;
	function down(event: PointerEvent) {
		const canvas = event.currentTarget as HTMLCanvasElement;
		canvas.setPointerCapture(event.pointerId);
		const y = (event.offsetY / canvas.clientHeight) * SCENE.height;
		grabbed = { part: partAt(y), x: event.clientX, y: event.clientY, at: event.timeStamp, slant };
	}
	function move(event: PointerEvent) {
		if (!grabbed) return;
		if (grabbed.part === 'syringe') {
			dragForce = Math.max(0, Math.min(1, (event.clientY - grabbed.y) / DRAG));
			if (kit.reads === 'drops')
				slant = Math.max(-60, Math.min(60, grabbed.slant + (event.clientX - grabbed.x) / 3));
			return;
		}
		const seconds = Math.max(0.004, (event.timeStamp - grabbed.at) / 1000);
		swirlPush = Math.max(swirlPush, Math.min(1, Math.abs(event.clientX - grabbed.x) / seconds / SWIRLED));
		grabbed = { ...grabbed, x: event.clientX, at: event.timeStamp };
	}
	function up() {
		grabbed = undefined;
		dragForce = 0;
	}
	function wheel(event: WheelEvent) {
		event.preventDefault();
		if (event.deltaY > 0) wheelForce = Math.min(1, wheelForce + event.deltaY / WHEEL);
	}

	/** Held keys: what they begin, and what their release ends. */
	const holds: Record<string, (on: boolean, hard: boolean) => void> = {
		ArrowDown: (on, hard) => press(on ? (hard ? 'hard' : 'held') : undefined),
		' ': (on, hard) => press(on ? (hard ? 'hard' : 'held') : undefined),
		s: (on) => (swirling = on)
	};
	function key(event: KeyboardEvent, on: boolean) {
		// What was pressed down here ends wherever the focus has gone.
		if (on && belongsElsewhere(event)) return;
		const name = event.key.length === 1 ? event.key.toLowerCase() : event.key;
		if (pressesFocused(event) && (name === ' ' || name === 'Enter')) return;
		const hold = holds[name];
		if (hold) {
			event.preventDefault();
			if (!event.repeat) hold(on, event.shiftKey);
			return;
		}
		if (!on || event.repeat) return;
		const acts: Record<string, () => void> = {
			t: touch,
			h: hear,
			Enter: stop,
			...(kit.reads === 'drops'
				? {
						ArrowLeft: () => (slant = Math.max(-60, slant - 5)),
						ArrowRight: () => (slant = Math.min(60, slant + 5))
					}
				: {})
		};
		const act = acts[name];
		if (!act) return;
		event.preventDefault();
		act();
	}
	const touch = () => void (bench = touched(bench));
	function hear() {
		sound?.stop();
		sound = sound ? undefined : soundColour();
		said = sound ? heard(bench) : '';
	}
	function stop() {
		press(undefined);
		swirling = false;
		onstop(bench);
	}

	/** Shaking the phone swirls the vial; where the browser asks first, it does so at the first touch of the button. */
	function shaken(event: DeviceMotionEvent) {
		const { x, y, z } = event.acceleration ?? {};
		swirlPush = Math.max(swirlPush, Math.min(1, Math.hypot(x ?? 0, y ?? 0, z ?? 0) / SHAKEN));
	}
	function mayShake() {
		const asks = (globalThis.DeviceMotionEvent as { requestPermission?: () => Promise<unknown> } | undefined)
			?.requestPermission;
		void asks?.().catch(() => undefined);
	}
	/** Without a hand on anything nothing is pressed: another tab, a call. */
	function letGo() {
		press(undefined);
		swirling = false;
		up();
	}
	const holding = (begin: () => void, end: () => void) => ({
		onpointerdown: (e: PointerEvent) => {
			(e.currentTarget as Element).setPointerCapture(e.pointerId);
			begin();
		},
		onpointerup: end,
		onpointercancel: end,
		onkeydown: (e: KeyboardEvent) => {
			if (e.key !== ' ' && e.key !== 'Enter') return;
			e.preventDefault();
			e.stopPropagation();
			if (!e.repeat) begin();
		},
		onkeyup: (e: KeyboardEvent) => {
			if (e.key === ' ' || e.key === 'Enter') end();
		},
		onblur: end,
		oncontextmenu: (e: Event) => e.preventDefault()
	});
</script>

<svelte:window
	onkeydown={(e) => key(e, true)}
	onkeyup={(e) => key(e, false)}
	onblur={letGo}
	ondevicemotion={shaken}
/>

<div class="practice">
	<div class="relative mx-auto w-full">
		<div
			role="img"
			aria-label="{kit.title}: a vial under a {kit.reads === 'syringe' ? 'syringe' : 'dropper bottle'}"
		>
			<canvas
				{@attach scene}
				data-testid="vial"
				onpointerdown={down}
				onpointermove={move}
				onpointerup={up}
				onpointercancel={up}
			></canvas>
		</div>
		<!-- Over the scene, so that nothing moves under a thumb that holds. -->
		{#if ringing}
			<div class="absolute inset-x-4 top-4 rounded-lg bg-saffron-wash p-3" role="alert">
				<p class="mb-2">◗ Your phone rings. Somebody wants to know about Saturday.</p>
				<Button class="min-h-14 w-full" color="alternative" onclick={() => (ringing = false)}
					>Put it away</Button
				>
			</div>
		{/if}
	</div>
	<div class="hands">
		<div class="leaflet" role="img" aria-label="On the leaflet: {kit.turns[0]}, the end, {kit.turns[1]}">
			{#each leaflet as { name, colour } (name)}
				<span style:background="rgb({colour.join(' ')})"></span><small>{name}</small>
			{/each}
		</div>
		<div class="grid grid-cols-2 gap-2">
			<button
				type="button"
				class="hold bg-plum text-on-plum"
				aria-keyshortcuts="ArrowDown"
				{...holding(
					() => press('held'),
					() => press(undefined)
				)}>{kit.reads === 'syringe' ? 'Press' : 'Squeeze'}</button
			>
			<button
				type="button"
				class="hold border border-glass"
				aria-keyshortcuts="S"
				{...holding(
					() => {
						mayShake();
						swirling = true;
					},
					() => (swirling = false)
				)}>Swirl</button
			>
			<Button class="col-span-2 min-h-14" color="alternative" aria-keyshortcuts="Enter" onclick={stop}
				>That is the end</Button
			>
			{#if kit.reads === 'syringe'}
				<Button color="alternative" class="min-h-14" aria-keyshortcuts="T" onclick={touch}
					>Touch the glass</Button
				>
			{:else}
				<label class="flex items-center gap-2 text-sm"
					>Held aslant
					<input
						type="range"
						min="-60"
						max="60"
						step="1"
						bind:value={slant}
						aria-valuetext="{Math.round(slant)} degrees"
						class="min-h-11 flex-1"
					/></label
				>
			{/if}
			<Button
				color={sound ? 'primary' : 'alternative'}
				class="min-h-14"
				aria-pressed={sound !== undefined}
				aria-keyshortcuts="H"
				onclick={hear}>Hear the colour</Button
			>
		</div>
		{#if empty}
			<Button color="alternative" class="min-h-14 w-full" onclick={() => (bench = refilled(bench))}>
				Empty: fill it again to the line
			</Button>
		{/if}
		<p class="min-h-6 text-sm" aria-live="polite">{said}</p>
		<p class="text-sm text-faint">
			{#if kit.reads === 'syringe'}
				Drag down on the syringe, turn the wheel over it, or hold ↓: gently it drips, hard it streams.
			{:else}
				Drag down on the bottle, or hold ↓, to squeeze; drag sideways, or ← →, to hold it upright.
			{/if}
			Drag the vial, shake the phone or hold S to swirl.
		</p>
	</div>
</div>

<style>
	.practice {
		display: grid;
		gap: 1rem;
	}
	canvas {
		display: block;
		width: min(100%, 26rem, calc(36vh * 400 / 560));
		aspect-ratio: 400 / 560;
		margin: 0 auto;
		touch-action: none;
		user-select: none;
		border-radius: 14px;
		cursor: grab;
	}
	.hands {
		display: grid;
		align-content: start;
		gap: 0.5rem;
	}
	.leaflet {
		display: grid;
		grid-template-rows: 2rem auto;
		grid-auto-flow: column;
		grid-auto-columns: 1fr;
		gap: 0 4px;
		padding: 6px;
		border: 1px solid var(--rule);
		border-radius: 10px;
		background: var(--sheet);
		text-align: center;
	}
	.leaflet span {
		border-radius: 5px;
	}
	.hold {
		min-height: 56px;
		border-radius: 10px;
		font-weight: 600;
		touch-action: none;
		user-select: none;
	}
	@media (min-width: 768px) {
		.practice {
			grid-template-columns: minmax(0, 26rem) minmax(0, 22rem);
		}
		canvas {
			width: min(100%, calc(74vh * 400 / 560));
		}
	}
</style>
