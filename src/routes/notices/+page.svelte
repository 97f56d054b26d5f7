<script lang="ts">
	/** Whose work this is made of, and under which licences. */
	import Sideways from '$lib/ui/shell/Sideways.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
</script>

<Title of="Notices" />
<h1>Made with the work of others</h1>
<p class="mt-2 max-w-prose">
	Tevrik is built on {data.notices.length} packages and two typefaces that their makers let everybody use.
	<a class="text-plum underline" href="/notices.txt" data-sveltekit-reload>All licences in their own words</a
	>.
</p>
<Sideways name="Packages" class="mt-3">
	<table class="w-full max-w-2xl text-sm">
		<caption class="sr-only">Packages and their licences</caption>
		<thead>
			<tr class="text-faint">
				<th scope="col" class="py-1 text-start font-normal">Package</th>
				<th scope="col" class="py-1 text-start font-normal">Version</th>
				<th scope="col" class="py-1 text-start font-normal">Licence</th>
			</tr>
		</thead>
		<tbody>
			{#each data.notices as n (`${n.name} ${n.version}`)}
				<tr class="border-t">
					<th scope="row" class="py-1 pe-3 text-start font-medium break-all">{n.name}</th>
					<td class="figure py-1 pe-3">{n.version}</td>
					<td class="py-1">{n.licence}</td>
				</tr>
			{/each}
		</tbody>
	</table>
</Sideways>
