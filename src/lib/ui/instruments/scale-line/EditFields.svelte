<script lang="ts">
	import type { ScaleLineMethod } from '$core/instruments';
	import type { EditProps } from '../editor';
	import EditFields from '../shown/EditFields.svelte';

	let { onscale: _scaleIsItsOwn, ...given }: EditProps<ScaleLineMethod> = $props();
</script>

<EditFields {...given} step="graduation" stepName="One line" />
