<script lang="ts">
	/** Stands beside a number that a template's scale gave: it is kept, and judged by nothing until the leaflet's chart comes. */
	let { href }: { href: string } = $props();
</script>

<span class="block text-sm" data-testid="not-yours">
	<span class="text-saffron" aria-hidden="true">○</span> by a chart that is not yours yet:
	<a class="link inline-flex min-h-11 items-center" {href}>type its leaflet</a>
</span>
