<script lang="ts">
	import type { DisplayMethod } from '$core/instruments';
	import type { EditProps } from '../editor';
	import EditFields from '../shown/EditFields.svelte';

	let { onscale: _scaleIsItsOwn, ...given }: EditProps<DisplayMethod> = $props();
</script>

<EditFields {...given} step="resolution" stepName="Last digit" />
