<script lang="ts">
	import { HOUR } from '$core/base';
	import { onMount } from 'svelte';
	import Button from 'flowbite-svelte/Button.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { isKnownValue } from '$core/methods';
	import { nameInSentence, ownParameter } from '$core/catalogue';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { currentTime } from '$lib/ui/clock';
	import { parameterFor, typedAs } from '$lib/ui/habits';
	import { valueFor } from '$lib/ui/mine';
	import type { Quick } from '$core/quick';
	import { draftOn } from '$lib/ui/instruments/draft';
	import { calledBy, usedLast } from '$lib/ui/instruments/called-by';
	import QuickLine from '$lib/ui/instruments/QuickLine.svelte';
	import Reader from '$lib/ui/instruments/Reader.svelte';
	import AsOf from '$lib/ui/shell/AsOf.svelte';
	import MethodOptions from '$lib/ui/shelf/MethodOptions.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();

	/** What a quick line put on the instrument; a new turn makes the reader anew with it. */
	let quick: { turn: number; line: Quick | undefined } = $state({ turn: 0, line: undefined });
	/** When what is read next was read, where that is not now. */
	let at: string | null | undefined = $state();
	/** It is kept over a reload, and for so long: who comes back tomorrow means now again, ms. */
	const KEPT = HOUR;
	const momentName = $derived(`moment.${data.system.id}`);
	let isRead = $state(false);
	onMount(() => {
		const kept = readDraft<{ at: string; chosen: number }>(momentName);
		if (kept && currentTime(data.now).getTime() - kept.chosen < KEPT) at = kept.at;
		isRead = true;
	});
	$effect(() => {
		if (isRead) keepDraft(momentName, at ? { at, chosen: currentTime(data.now).getTime() } : undefined);
	});
	/** Another water than the tank's own can be asked for by its address. */
	let chosenSource: string | undefined = $state(page.url.searchParams.get('water') ?? undefined);

	const asked = $derived(page.url.searchParams.get('of') ?? 'alkalinity');
	/** The kit used last for each parameter comes first, then others in the order of templates, then values from elsewhere. */
	const methods = $derived(
		usedLast(
			data.methods,
			data.latest.map((r) => r.methodId)
		)
	);
	const method = $derived(
		methods.find((m) => m.id === page.url.searchParams.get('with')) ??
			methods.find((m) => m.profile.parameter === asked) ??
			methods[0]!
	);
	const source = $derived(data.sources.find((s) => s.id === chosenSource) ?? data.sources[0]!);
	const parameter = $derived(
		parameterFor(method.profile.parameter) ?? ownParameter(method.profile.parameter, method.profile.unit)
	);
	const ofTank = (id: string | undefined) =>
		source.kind === 'tank' ? data.latest.filter((r) => r.parameter === id) : [];
	/** A forecast needs a few tests to rest on. */
	const LEAST = 4;
	const levelOf = (id: string) =>
		source.kind === 'tank' && ofTank(id).length >= LEAST ? data.levels[id] : undefined;

	const choose = (id: string) =>
		goto(`?of=${methods.find((m) => m.id === id)?.profile.parameter}&with=${id}`, {
			replaceState: true,
			noScroll: true
		});

	async function take(line: Quick, then: string | undefined) {
		const found = methods.find((m) => calledBy(m) === line.methodId);
		if (!found) return;
		await choose(found.id);
		if (then) at = then;
		quick = { turn: quick.turn + 1, line };
	}
	/** Calcium first, then its magnesium from the same vial. */
	const next = $derived.by(() => {
		const after = methods.find((m) => m.profile.takeAway?.parameter === method.profile.parameter);
		return after && { name: after.profile.name, href: `?of=${after.profile.parameter}&with=${after.id}` };
	});
	const begin = $derived(
		quick.line && quick.line.methodId === calledBy(method)
			? {
					...draftOn(method.profile, quick.line.reading),
					...(quick.line.sample ? { sampleSize: quick.line.sample } : {}),
					...(quick.line.temperatureC === undefined
						? {}
						: {
								temperature: typedAs(valueFor('temperature', quick.line.temperatureC), 4)
							})
				}
			: undefined
	);
</script>

<Title of={['Bench', parameter.title]} />
<AsOf asOf={data.asOf} timeZone={data.system.timeZone} />

<div class="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2 max-md:gap-x-2">
	<h1 class="sr-only">Bench</h1>
	<Label class="flex min-w-0 items-center gap-2 max-md:w-[63%]">
		<span class="max-md:sr-only">Method</span>
		<Select
			class="min-w-0 flex-1"
			placeholder=""
			value={method.id}
			onchange={(e) => choose(e.currentTarget.value)}
		>
			<MethodOptions methods={data.methods} />
		</Select>
	</Label>
	<Label class="flex min-w-0 flex-1 items-center gap-2 md:flex-none">
		<span class="max-md:sr-only">Water</span>
		<Select
			class="min-w-0 flex-1"
			placeholder=""
			value={source.id}
			onchange={(e) => (chosenSource = e.currentTarget.value)}
		>
			{#each data.sources as s (s.id)}
				<option value={s.id}>{s.name}{s.kind === 'tank' ? '' : `, ${s.kind}`}</option>
			{/each}
		</Select>
	</Label>
	<QuickLine
		methods={methods.map((m) => ({ ...m.profile, id: calledBy(m) }))}
		now={data.now}
		timeZone={data.system.timeZone}
		ontake={take}
	/>
</div>
{#if isKnownValue(method.profile)}
	<p class="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1" data-testid="no-kit">
		<span
			>{methods.some((m) => m.own && m.profile.parameter === parameter.id)
				? 'For a value read elsewhere: a lab, a friend, an old note book.'
				: `No kit on your shelf measures ${nameInSentence(parameter.id)} yet; this takes a value read elsewhere.`}</span
		>
		<Button href="/s/{data.system.id}/shelf/new">Add a kit</Button>
	</p>
{/if}
{#key `${method.versionId}/${source.id}/${quick.turn}`}
	<Reader
		method={method.profile}
		methodId={method.id}
		versionId={method.versionId}
		systemId={data.system.id}
		sourceId={source.id}
		water={source.kind}
		{parameter}
		band={source.kind === 'tank' ? data.bands[parameter.id] : undefined}
		earlier={ofTank(parameter.id)}
		level={levelOf(parameter.id)}
		other={ofTank(method.profile.takeAway?.parameter)[0]}
		proved={data.proved[method.id]}
		now={data.now}
		timeZone={data.system.timeZone}
		{next}
		{begin}
		bind:at
	/>
{/key}
