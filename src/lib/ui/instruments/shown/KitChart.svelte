<script lang="ts">
	/** No chart is typed. */
	import type { KitProps } from '../editor';

	const _kit: KitProps = $props();
</script>

<p class="max-w-prose">
	It shows its number itself, so it needs no chart. How far it may be off stands among its details and can be
	changed there.
</p>
