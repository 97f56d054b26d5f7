<script lang="ts">
	/**
	 * Drops counted by tapping anywhere on it, or by Space. Two taps closer than a hand can drip are asked about; the last
	 * drop can be doubtful, or only confirm the colour. The count is the draft's text, so a reload loses none.
	 */
	import Button from 'flowbite-svelte/Button.svelte';
	import type { DropsMethod } from '$core/instruments';
	import type { FaceProps } from '../view';
	import { tick as sound } from './tick';

	let { method, draft, spoken, onchange }: FaceProps<DropsMethod> = $props();

	/** Two drops from one bottle are never this close, ms. */
	const TOO_CLOSE = 150;

	const drops = $derived(/^\d+$/.test(draft.text.trim()) ? Number(draft.text) : 0);
	let last = 0;
	let asking = $state(false);
	let muted = $state(false);

	function count(by: number) {
		const next = Math.max(0, drops + by);
		onchange({
			text: next ? String(next) : '',
			doubtful: Math.min(draft.doubtful, next),
			confirming: Math.min(draft.confirming, next)
		});
	}
	function drop(at: number) {
		if (at - last < TOO_CLOSE) asking = true;
		else if (!muted) sound();
		last = at;
		count(1);
	}
	function key(event: KeyboardEvent) {
		const keys: Record<string, () => void> = {
			' ': () => drop(event.timeStamp),
			Backspace: () => count(-1),
			ArrowUp: () => count(1),
			ArrowDown: () => count(-1),
			d: doubt,
			c: confirm
		};
		const act = keys[event.key];
		if (!act) return;
		event.preventDefault();
		// A held key is one drop.
		if (!event.repeat) act();
	}
	const doubt = () => onchange({ doubtful: draft.doubtful ? 0 : Math.min(1, drops) });
	const confirm = () => onchange({ confirming: draft.confirming ? 0 : Math.min(1, drops) });
</script>

<div class="drops">
	<div
		class="pad"
		role="spinbutton"
		tabindex="0"
		aria-label="Drops"
		aria-valuenow={drops}
		aria-valuemin={0}
		aria-valuetext="{drops} drops, {spoken}"
		aria-keyshortcuts="Space Backspace"
		data-instrument
		onpointerdown={(e) => e.button === 0 && drop(e.timeStamp)}
		onkeydown={key}
	>
		<svg viewBox="0 0 120 60" class="h-16" aria-hidden="true">
			<path d="M48 0 v16 l6 10 v8 h12 v-8 l6 -10 V0" fill="none" stroke="var(--glass)" stroke-width="2.5" />
			<path d="M60 40 c6 8 6 14 0 14 s-6 -6 0 -14" fill="var(--plum)" />
		</svg>
		<span class="figure text-8xl font-semibold">{drops}</span>
		<span class="text-sm text-faint">tap for each drop · Space</span>
		<span class="marks" aria-hidden="true">
			{#each Array.from({ length: Math.ceil(Math.min(drops, 100) / 5) }, (_, g) => g) as group (group)}
				<span class="five">
					{#each Array.from({ length: Math.min(5, drops - 5 * group) }, (_, i) => 5 * group + i) as i (i)}
						{@const end = drops - 1 - i}
						<span
							role="presentation"
							class="mark"
							class:doubtful={end < draft.doubtful}
							class:confirming={end < draft.confirming}
							onpointerdown={(e) => e.stopPropagation()}
							ondblclick={() => end === 0 && doubt()}
						></span>
					{/each}
				</span>
			{/each}
		</span>
	</div>
	{#if asking}
		<div class="mt-2 flex flex-wrap items-center gap-2 rounded-lg bg-saffron-wash p-2 text-sm" role="alert">
			<span>▲ Two drops within a blink. One or two?</span>
			<Button
				size="sm"
				color="alternative"
				onclick={() => {
					asking = false;
					count(-1);
				}}>One</Button
			>
			<Button size="sm" color="alternative" onclick={() => (asking = false)}>Two</Button>
		</div>
	{/if}
	<div class="mt-2 flex flex-wrap gap-2">
		<Button color="alternative" class="min-h-14 flex-1 px-2" disabled={!drops} onclick={() => count(-1)}
			>One back</Button
		>
		<Button
			color={draft.doubtful ? 'primary' : 'alternative'}
			class="min-h-14 flex-1 px-2"
			aria-pressed={draft.doubtful > 0}
			disabled={!drops}
			onclick={doubt}>Doubtful</Button
		>
		<Button
			color={draft.confirming ? 'primary' : 'alternative'}
			class="min-h-14 flex-1 px-2"
			aria-pressed={draft.confirming > 0}
			disabled={!drops}
			onclick={confirm}>Confirming</Button
		>
		<Button color="alternative" class="min-h-14 px-3" aria-pressed={muted} onclick={() => (muted = !muted)}>
			{muted ? 'Muted' : 'Tick'}
		</Button>
	</div>
	<p class="mt-1 text-sm text-faint">
		A confirming drop {method.countConfirming === false ? 'is not' : 'is'} part of this kit’s count.
	</p>
</div>

<style>
	.drops {
		display: flex;
		flex-direction: column;
		width: 100%;
		height: 100%;
	}
	.pad {
		display: flex;
		flex: 1;
		min-height: 38vh;
		flex-direction: column;
		align-items: center;
		justify-content: center;
		border: 2px dashed var(--glass);
		border-radius: 18px;
		background: var(--sheet);
		touch-action: manipulation;
		user-select: none;
		cursor: pointer;
	}
	.pad:active {
		background: var(--plum-wash);
	}
	.marks {
		display: flex;
		flex-wrap: wrap;
		justify-content: center;
		gap: 6px 10px;
		max-width: 17rem;
		margin-top: 0.75rem;
	}
	.mark {
		width: 11px;
		height: 11px;
		border-radius: 50%;
		background: var(--plum);
	}
	.five {
		display: flex;
		gap: 3px;
	}
	.mark.doubtful {
		background: none;
		border: 2px solid var(--saffron);
	}
	.mark.confirming {
		border-radius: 2px;
		background: var(--faint-ink);
	}
</style>
