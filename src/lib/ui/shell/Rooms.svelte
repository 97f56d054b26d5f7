<script lang="ts">
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

<nav
	aria-label="Rooms"
	class="fixed inset-x-0 bottom-0 z-10 flex border-t bg-sheet md:static md:w-24 md:flex-col md:gap-1 md:border-t-0 md:border-r md:bg-transparent md:p-2 md:pt-4"
>
	{#each rooms as room, i (room.id)}
		<a
			bind:this={links[i]}
			href="/s/{system}/{room.id}"
			aria-current={current === room.id ? 'page' : undefined}
			aria-keyshortcuts="Alt+{room.key}"
			title="{room.name} (Alt+{room.key})"
			class="flex min-h-14 flex-1 flex-col items-center justify-center gap-0.5 text-xs text-faint md:text-sm hover:text-ink md:min-h-18 md:flex-none md:rounded-xl aria-[current=page]:bg-plum-wash aria-[current=page]:font-semibold aria-[current=page]:text-plum"
		>
			<svg
				viewBox="0 0 24 24"
				class="size-6"
				fill="none"
				stroke="currentColor"
				stroke-width="1.7"
				stroke-linecap="round"
				stroke-linejoin="round"
				aria-hidden="true"><path d={room.icon} /></svg
			>
			{room.name}
		</a>
	{/each}
</nav>
