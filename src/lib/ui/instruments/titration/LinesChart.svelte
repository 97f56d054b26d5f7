<script lang="ts">
	/** The lines of the leaflet, as a kit comes onto the shelf. */
	import type { Snippet } from 'svelte';
	import type { DropsMethod, SyringeMethod } from '$core/instruments';
	import Leaflet from '$lib/ui/shelf/Leaflet.svelte';
	import type { KitProps } from '../editor';

	interface Props extends Pick<KitProps, 'draft' | 'set'> {
		profile: SyringeMethod | DropsMethod;
		fillMl: number;
		children?: Snippet;
	}
	let { draft, profile, fillMl, set, children }: Props = $props();
</script>

<h2 class="mb-1">From the leaflet in your hand</h2>
<Leaflet
	parameter={draft.parameter}
	unit={draft.unit}
	reads={profile.reads}
	{fillMl}
	readAs={draft.readAs || undefined}
	rows={draft.rows}
	checked={draft.checked}
	ontyped={(rows) => set({ rows })}
	oncheck={(checked) => set({ checked })}
/>
{@render children?.()}
