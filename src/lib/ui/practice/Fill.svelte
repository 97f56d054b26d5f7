<script lang="ts">
	/** A syringe filled to its line: the plunger is drawn up, and what has to stand at the line is its edge. */
	import Button from 'flowbite-svelte/Button.svelte';
	import Barrel from './Barrel.svelte';
	import { belongsElsewhere, pressesFocused } from './keys';
	import type { PracticeKit } from './kits';

	let { kit, onstop }: { kit: PracticeKit; onstop: (edge: number) => void } = $props();
	let left = $state(0.86);
	/** Liquid follows the plunger at a gap that was drawn in first. */
	const AIR = 0.045;
	const done = (event: KeyboardEvent) => {
		if (event.key === 'Enter' && !belongsElsewhere(event) && !pressesFocused(event)) onstop(left);
	};
</script>

<svelte:window onkeydown={done} />
<div class="grid gap-4 md:grid-cols-[18rem_22rem]">
	<Barrel {kit} {left} airMl={AIR} span={[0.8, 1.06]} label="Plunger" onmove={(ml) => (left = ml)} />
	<div class="grid content-start gap-3">
		<p>
			Draw the syringe full: its <strong>plunger’s edge</strong> at the line for {kit.fillMl}. The air above
			the liquid belongs there.
		</p>
		<p class="text-sm text-faint">Drag the plunger, or ↑ and ↓ by a fifth of a line.</p>
		<Button class="min-h-14" onclick={() => onstop(left)}>It is full</Button>
	</div>
</div>
