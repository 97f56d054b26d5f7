<script lang="ts" generics="T extends { id: string; profile: Method; own?: boolean }">
	/** Methods as the options of a list, grouped by what they measure, in the order of the parameters; what stands on no shelf of theirs comes last. */
	import { type Method } from '$core/instruments';
	import { hasOwnChart, isKnownValue } from '$core/methods';
	import { PARAMETERS } from '$core/catalogue';

	let { methods }: { methods: T[] } = $props();
	const isTemplate = (m: T) => m.own === false && !isKnownValue(m.profile);
	/** Whoever has no kit yet reads by templates. */
	const theirs = $derived(methods.some((m) => m.own) ? methods.filter((m) => !isTemplate(m)) : methods);
	const templates = $derived(methods.filter((m) => !theirs.includes(m)));
	const groups = $derived(
		PARAMETERS.map((p) => ({
			title: p.title,
			methods: theirs.filter((m) => m.profile.parameter === p.id)
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
{#if templates.length}
	<optgroup label="Not on your shelf">
		{#each templates as m (m.id)}<option value={m.id}>{m.profile.name}</option>{/each}
	</optgroup>
{/if}
