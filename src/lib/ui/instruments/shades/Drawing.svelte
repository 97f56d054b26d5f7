<svelte:options namespace="svg" />

<script lang="ts">
	let { look }: { look: string } = $props();
</script>

{#if look === 'card'}
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
{:else}
	<path d="M4 26h56v20H4z" />
	{#each [0, 1, 2, 3] as i (i)}
		<path d="M{8 + 13 * i} 30h9v12h-9z" fill="var(--plum)" fill-opacity={0.12 + 0.24 * i} stroke="none" />
	{/each}
	<path d="M26 20h14v32H26zM14 60h36M14 60l4-4M14 60l4 4M50 60l-4-4M50 60l-4 4" />
{/if}
