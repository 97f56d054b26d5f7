<script lang="ts">
	import type { SyringeMethod } from '$core/instruments';
	import type { KitProps } from '../editor';
	import LinesChart from '../titration/LinesChart.svelte';

	let { draft, profile, set }: KitProps<SyringeMethod> = $props();
</script>

<LinesChart {draft} {profile} {set} fillMl={profile.syringe.fillMl} />
