<script lang="ts">
	import { afterNavigate } from '$app/navigation';
	import { page } from '$app/state';

	let { system }: { system: string } = $props();

	const rooms = [
		{
			id: 'rack',
			name: 'Rack',
			key: '1',
			icon: 'M4 4h16M6 4v13a2.5 2.5 0 0 0 5 0V4M13 4v13a2.5 2.5 0 0 0 5 0V4M6 11h5M13 14h5'
		},
		{
			id: 'bench',
			name: 'Bench',
			key: '2',
			icon: 'M8 2h8M9 5h6M9.5 5v11l2.5 2 2.5-2V5M12 18v4M9.5 10h2M9.5 13h2M12 2v3'
		},
		{
			id: 'readings',
			name: 'Readings',
			key: '3',
			icon: 'M5 3h12a2 2 0 0 1 2 2v16H7a2 2 0 0 1-2-2zM5 19a2 2 0 0 1 2-2h12M9 7h6M9 11h6'
		},
		{ id: 'trends', name: 'Trends', key: '4', icon: 'M3 21h18M3 21V4M6 15l4-4 4 3 6-8M10 8v6M14 11v6' },
		{
			id: 'adjust',
			name: 'Adjust',
			key: '7',
			icon: 'M4 4h9l-1.4 16H5.4zM5 11h7.4M18.5 8c1.5 2 2.3 3.2 2.3 4.6a2.3 2.3 0 0 1-4.6 0c0-1.4.8-2.6 2.3-4.6z'
		},
		{
			id: 'shelf',
			name: 'Shelf',
			key: '5',
			icon: 'M3 9h18M3 19h18M5 9V4h4v5M11 9V5h3v4M17 9l1.5-5 2 .6L19 9M6 19v-5h5v5M14 19v-6h3v6'
		},
		{
			id: 'practice',
			name: 'Practice',
			key: '8',
			icon: 'M9 3h6M10 3v6l-5 9a2 2 0 0 0 1.8 3h10.4a2 2 0 0 0 1.8-3l-5-9V3M7.5 14.5h9M12 17.5h.01'
		},
		{
			id: 'tank',
			name: 'Tank',
			key: '6',
			icon: 'M3 5h18v14H3zM3 9c2 1.5 4 1.5 6 0s4-1.5 6 0 4 1.5 6 0M7 19v2M17 19v2'
		}
	];
	const current = $derived(page.url.pathname.split('/')[3]);

	let links: HTMLAnchorElement[] = $state([]);
	/** What a phone's bar has no room for stands above it, once it is asked for. */
	const LATE = ['trends', 'shelf', 'practice', 'tank'];
	let open = $state(false);
	afterNavigate(() => (open = false));

	/** Alt and the room's number goes there. */
	function key(event: KeyboardEvent) {
		if (!event.altKey || event.ctrlKey || event.metaKey) return;
		const at = rooms.findIndex((r) => r.key === event.key);
		if (at < 0) return;
		event.preventDefault();
		links[at]?.click();
	}
</script>

<svelte:window onkeydown={key} />

<nav id="rooms" aria-label="Rooms" class="rooms" class:open>
	{#each rooms as room, i (room.id)}
		<a
			bind:this={links[i]}
			href="/s/{system}/{room.id}"
			aria-current={current === room.id ? 'page' : undefined}
			aria-keyshortcuts="Alt+{room.key}"
			title="{room.name} (Alt+{room.key})"
			class="room"
			class:late={LATE.includes(room.id)}
		>
			<svg viewBox="0 0 24 24" class="icon" aria-hidden="true"><path d={room.icon} /></svg>
			{room.name}
		</a>
	{/each}
	<button
		type="button"
		class="room more"
		class:here={current !== undefined && LATE.includes(current)}
		aria-expanded={open}
		aria-controls="rooms"
		onclick={() => (open = !open)}
	>
		<svg viewBox="0 0 24 24" class="icon" aria-hidden="true"
			><path d="M5 6h5v5H5zM14 6h5v5h-5zM5 14h5v5H5zM14 14h5v5h-5z" /></svg
		>
		More
	</button>
</nav>

<style>
	.rooms {
		display: grid;
		grid-template-columns: repeat(5, minmax(0, 1fr));
		position: fixed;
		inset: auto 0 0 0;
		z-index: 10;
		border-top: 1px solid var(--rule);
		background: var(--sheet);
	}
	.room {
		display: flex;
		flex-direction: column;
		align-items: center;
		justify-content: center;
		gap: 0.125rem;
		min-height: 3.5rem;
		min-width: 0;
		overflow-wrap: anywhere;
		text-align: center;
		font-size: 0.75rem;
		line-height: 1.1;
		color: var(--faint-ink);
	}
	.room:hover {
		color: var(--ink);
	}
	.room[aria-current='page'],
	.room.here {
		background: var(--plum-wash);
		font-weight: 600;
		color: var(--plum);
	}
	.icon {
		width: 1.5rem;
		height: 1.5rem;
		fill: none;
		stroke: currentColor;
		stroke-width: 1.7;
		stroke-linecap: round;
		stroke-linejoin: round;
	}
	@media (width < 48rem) {
		.late {
			display: none;
		}
		.open .late {
			display: flex;
			order: -1;
		}
		/* The row above is theirs alone: its last place stays empty. */
		.open::after {
			content: '';
			order: -1;
		}
	}
	@media (width >= 48rem) {
		.rooms {
			position: static;
			display: flex;
			flex-direction: column;
			gap: 0.25rem;
			width: 6rem;
			padding: 1rem 0.5rem 0.5rem;
			border-top: 0;
			border-right: 1px solid var(--rule);
			background: transparent;
		}
		.more {
			display: none;
		}
		.room {
			min-height: 4.5rem;
			border-radius: 0.75rem;
			font-size: 0.875rem;
			line-height: 1.25;
		}
	}
</style>
