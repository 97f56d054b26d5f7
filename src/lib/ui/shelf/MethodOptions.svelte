<script lang="ts" generics="T extends { id: string; profile: Method }">
	/** Methods as the options of a list, grouped by what they measure, in the order of the parameters. */
	import { hasOwnChart, type Method } from '$core/methods';
	import { PARAMETERS } from '$core/quantities';

	let { methods }: { methods: T[] } = $props();
	const groups = $derived(
		PARAMETERS.map((p) => ({
			title: p.title,
			methods: methods.filter((m) => m.profile.parameter === p.id)
		})).filter((g) => g.methods.length)
	);
</script>

{#each groups as group (group.title)}
	<optgroup label={group.title}>
		{#each group.methods as m (m.id)}<option value={m.id}
				>{m.profile.name}{hasOwnChart(m.profile) ? '' : ' ○ no chart yet'}</option
			>{/each}
	</optgroup>
{/each}
