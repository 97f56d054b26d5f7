<script lang="ts">
	/** A meter: the number it shows is typed where it stands on the meter, with its unit; the conversion stands beside. */
	import { numberTyped } from '$core/quick';
	import { formatUnit } from '$core/quantities';
	import type { DisplayMethod } from '$core/instruments';
	import { figures, numeral } from '$lib/ui/habits';
	import { shownOn } from '../shown/draft';
	import type { FaceProps } from '../view';

	let { method, draft, onchange }: FaceProps<DisplayMethod> = $props();
	const display = $derived(shownOn(method));
	const step = $derived(display.step);
	const decimals = $derived(Math.max(0, Math.ceil(-Math.log10(step) - 1e-9)));

	function key(event: KeyboardEvent) {
		if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
		const now = numberTyped(draft.text) || 0;
		const by = (event.shiftKey ? 10 : 1) * step * (event.key === 'ArrowUp' ? 1 : -1);
		const [low, high] = display.range ?? [0, Infinity];
		onchange({ text: numeral(Math.max(low, Math.min(high, now + by)), decimals) });
		event.preventDefault();
	}
</script>

<div class="meter">
	<label class="display">
		<span class="sr-only">Shown by the meter, {formatUnit(display.unit)}</span>
		<input
			class="figure"
			inputmode="decimal"
			autocomplete="off"
			data-instrument
			placeholder="- - -"
			value={draft.text}
			oninput={(e) => onchange({ text: e.currentTarget.value })}
			onkeydown={key}
		/>
		<span class="unit">{formatUnit(display.unit)}</span>
	</label>
	<div class="well" aria-hidden="true"></div>
	<p class="text-center text-sm text-faint">
		Type the number as shown{display.range
			? `, ${figures(display.range[0])} to ${figures(display.range[1], 4)}`
			: ''}
	</p>
</div>

<style>
	.meter {
		display: flex;
		flex-direction: column;
		gap: 1.25rem;
		width: min(19rem, 100%);
		padding: 1.25rem;
		border: 2px solid var(--glass);
		border-radius: 26px 26px 60px 60px;
		background: var(--sheet);
	}
	.display {
		display: block;
		padding: 0.5rem 0.75rem;
		border-radius: 10px;
		background: var(--moss-wash);
	}
	.display input {
		width: 100%;
		border: 0;
		background: transparent;
		text-align: right;
		font-size: 3rem;
		color: var(--ink);
		padding: 0;
	}
	.unit {
		display: block;
		text-align: right;
		color: var(--ink);
	}
	.well {
		align-self: center;
		width: 6.5rem;
		height: 6.5rem;
		border: 2px solid var(--glass);
		border-radius: 50%;
		background: radial-gradient(circle, var(--rule) 38%, transparent 40%);
	}
</style>
