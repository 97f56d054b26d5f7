<script lang="ts">
	/** The step as a picture: the vial with its number, and what is done to it. */
	import type { RunStep } from '$core/run';

	let {
		act,
		vial,
		turning = false
	}: { act: RunStep['act']; vial?: number | undefined; turning?: boolean } = $props();

	const level = $derived(act === 'rinse' ? 96 : 60);
</script>

<svg viewBox="0 0 140 150" class="picture" class:turning aria-hidden="true">
	{#if act === 'filter'}
		<path d="M40 14h60l-24 36v18h-12V50z" class="glass" />
		<path d="M52 20h36l-16 24z" class="liquid" />
	{:else if act === 'titrate'}
		<path d="M62 2h16v34l-8 12-8-12z" class="glass" />
		<path d="M70 52c4 6 4 9 0 9s-4-3 0-9z" class="drop" />
	{:else if act === 'add'}
		<path d="M58 6h24v22l-8 8v6h-8v-6l-8-8z" class="glass" />
		<path d="M70 46c5 7 5 11 0 11s-5-4 0-11z" class="drop" />
	{:else if act === 'measure' || act === 'dilute'}
		<path d="M60 2h20v40l-8 6v8h-4v-8l-8-6z" class="glass" />
		<path d="M62 18h16v23l-8 5-8-5z" class="liquid" />
	{:else if act === 'wait'}
		<circle cx="70" cy="30" r="22" class="glass" />
		<path d="M70 14v16l11 7" class="line" />
	{:else if act === 'match'}
		<rect x="102" y="66" width="14" height="14" class="patch" />
		<rect x="102" y="84" width="14" height="14" class="patch two" />
		<rect x="102" y="102" width="14" height="14" class="patch three" />
	{:else if act === 'mix'}
		<path d="M30 66c-8 10-8 46 0 58M110 66c8 10 8 46 0 58" class="line" />
	{/if}
	{#if act !== 'read' || vial !== undefined}
		<g class="vial">
			<path d="M48 62h44v66a12 12 0 0 1-12 12H60a12 12 0 0 1-12-12z" class="glass" />
			<path
				d="M50 {62 + (140 - 62) * (1 - level / 100)}h40V128a10 10 0 0 1-10 10H60a10 10 0 0 1-10-10z"
				class="liquid"
			/>
			<path d="M44 62h52" class="rim" />
			{#if vial !== undefined}<text x="70" y="120" text-anchor="middle">{vial}</text>{/if}
		</g>
	{:else}
		<circle cx="70" cy="90" r="34" class="glass" />
		<path d="M36 92h68" class="line" />
	{/if}
</svg>

<style>
	.picture {
		width: 100%;
		height: 100%;
	}
	.glass {
		fill: var(--sheet);
		stroke: var(--glass);
		stroke-width: 2.5;
		stroke-linejoin: round;
	}
	.liquid,
	.drop {
		fill: color-mix(in srgb, var(--liquid) 60%, transparent);
	}
	.drop {
		fill: var(--plum);
	}
	.line,
	.rim {
		fill: none;
		stroke: var(--glass);
		stroke-width: 4;
		stroke-linecap: round;
	}
	.patch {
		fill: color-mix(in srgb, var(--plum) 20%, var(--sheet));
		stroke: var(--glass);
	}
	.two {
		fill: color-mix(in srgb, var(--plum) 45%, var(--sheet));
	}
	.three {
		fill: color-mix(in srgb, var(--plum) 75%, var(--sheet));
	}
	text {
		font-family: var(--font-mono);
		font-size: 34px;
		font-weight: 700;
		fill: var(--ink);
	}
	@media (prefers-reduced-motion: no-preference) {
		.turning .vial {
			animation: shake 0.5s ease-in-out infinite alternate;
			transform-origin: 70px 140px;
		}
	}
	@keyframes shake {
		from {
			transform: rotate(-7deg);
		}
		to {
			transform: rotate(7deg);
		}
	}
</style>
