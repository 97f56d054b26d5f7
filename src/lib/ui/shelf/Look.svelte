<script lang="ts">
	/** How an instrument looks, in a few lines. */
	import type { Look } from './kit-draft';

	let { look }: { look: Look } = $props();
</script>

<svg
	viewBox="0 0 64 72"
	class="h-16 w-14"
	fill="none"
	stroke="currentColor"
	stroke-width="2"
	stroke-linecap="round"
	stroke-linejoin="round"
	aria-hidden="true"
>
	{#if look === 'syringe'}
		<path d="M25 4h14M32 4v22M24 14v40h16V14M24 54l5 6h6l5-6M32 60v8" />
		<path d="M24 27h16v26H24z" fill="var(--liquid)" stroke="none" opacity="0.8" />
		<path d="M24 26h16" stroke-width="4" />
		<path d="M36 34h4M33 40h7M36 46h4" />
	{:else if look === 'drops'}
		<path d="M26 4h12v8l4 6v14H22V18l4-6zM30 32v6h4v-6" />
		<path d="M32 44c4 5 5 8 5 10a5 5 0 0 1-10 0c0-2 1-5 5-10z" fill="var(--liquid)" />
	{:else if look === 'card'}
		<path d="M30 6h26v60H30z" />
		{#each [0, 1, 2, 3] as i (i)}
			<path d="M36 {12 + 13 * i}h14v8H36z" fill="var(--plum)" fill-opacity={0.12 + 0.24 * i} stroke="none" />
		{/each}
		<path d="M8 24h16M10 24v34a6 6 0 0 0 12 0V24M10 36h12" />
	{:else if look === 'wheel'}
		<circle cx="32" cy="36" r="26" />
		<circle cx="32" cy="36" r="5" />
		{#each [0, 1, 2, 3, 4, 5] as i (i)}
			<circle
				cx={32 + 17 * Math.cos((i * Math.PI) / 3)}
				cy={36 + 17 * Math.sin((i * Math.PI) / 3)}
				r="5"
				fill="var(--plum)"
				fill-opacity={0.1 + 0.16 * i}
				stroke="none"
			/>
		{/each}
	{:else if look === 'block'}
		<path d="M4 26h56v20H4z" />
		{#each [0, 1, 2, 3] as i (i)}
			<path d="M{8 + 13 * i} 30h9v12h-9z" fill="var(--plum)" fill-opacity={0.12 + 0.24 * i} stroke="none" />
		{/each}
		<path d="M26 20h14v32H26zM14 60h36M14 60l4-4M14 60l4 4M50 60l-4-4M50 60l-4 4" />
	{:else if look === 'meter'}
		<path d="M14 6h36v60H14zM20 13h24v16H20z" />
		<path d="M24 26v-8M30 26v-8h5v4h-5M39 26h1" stroke-width="1.6" />
		<circle cx="26" cy="44" r="3" />
		<circle cx="38" cy="44" r="3" />
		<path d="M24 56h16" />
	{:else}
		<path d="M27 4h10v40a12 12 0 1 1-10 0z" />
		<path d="M32 22v30" stroke="var(--liquid)" stroke-width="5" />
		<path d="M44 10h6M44 18h4M44 26h6M44 34h4" />
	{/if}
</svg>
