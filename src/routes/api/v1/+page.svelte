<script lang="ts">
	import Title from '$lib/ui/shell/Title.svelte';
	import { scrolls } from '$lib/ui/shell/scrolls';
	let { data } = $props();
	const groups = $derived([...new Set(data.operations.map((o) => o.group))]);
</script>

<Title of="API" />
<div class="mx-auto max-w-5xl">
	<h1>The API</h1>
	<p class="mt-2 max-w-prose">
		What the pages do, for programs. Make a token under <a class="underline" href="/account">your account</a>
		and send it with every request; calculations need none. Errors are problem details with a sentence for each
		place. Whatever is sent twice is kept once: by its id, or by its Idempotency-Key. The same, for machines:
		<a class="underline" href="/api/v1/openapi.json">openapi.json</a> (OpenAPI 3.1).
	</p>
	<pre
		role="region"
		aria-label="How to ask"
		{@attach scrolls}
		class="mt-3 overflow-x-auto rounded-lg border bg-sheet p-3 text-sm">curl -H 'Authorization: Bearer tvk_…' {'{'}this server}/api/v1/systems</pre>
	{#each groups as group (group)}
		<h2 class="mt-6">{group}</h2>
		<ul class="divide-y border-y">
			{#each data.operations.filter((o) => o.group === group) as o (o.method + o.path)}
				<li>
					<details>
						<summary class="min-h-11 cursor-pointer py-2">
							<span class="figure inline-block w-16 text-sm text-plum">{o.method}</span>
							<code class="figure text-sm break-all">{o.path}</code>
							<span class="block text-sm text-faint md:ms-16">{o.summary}</span>
						</summary>
						<div class="mb-3 text-sm md:ms-16">
							{#if o.open}<p>Answers without a token.</p>{/if}
							{#if o.once}<p>Header <code>Idempotency-Key</code>, new for each thing to save.</p>{/if}
							{#if o.query.length}<p>Query: <code>{o.query.join(', ')}</code></p>{/if}
							{#if o.bodyType}<p>Sent as <code>{o.bodyType}</code>.</p>{/if}
							{#if o.fields.length}<p>Fields: <code>{o.fields.join(', ')}</code></p>{/if}
							{#if o.answers}<p>Answers as <code>{o.answers}</code>.</p>{/if}
							{#if o.example}<pre
									role="region"
									aria-label="Example"
									{@attach scrolls}
									class="mt-1 overflow-x-auto rounded-lg border bg-sheet p-3">{o.example}</pre>{/if}
						</div>
					</details>
				</li>
			{/each}
		</ul>
	{/each}
</div>
