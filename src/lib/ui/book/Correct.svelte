<script lang="ts">
	/** What was really seen: typed as on the instrument, computed while typing, kept with a reason. */
	import { DateTime } from 'luxon';
	import Button from 'flowbite-svelte/Button.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { type Method } from '$core/instruments';
	import { expressedIn, read, readingRequest } from '$core/methods';
	import { correctingReading } from '$lib/client/commands';
	import type { BookReading } from '$lib/api/book';
	import type { CorrectReading } from '$lib/api/readings';
	import { call } from '$lib/client/api';
	import { draftOf, draftOn, freshDraft, readingOf } from '$lib/ui/instruments/draft';
	import { post } from '$lib/ui/outbox.svelte';
	import { unitFor } from '$lib/ui/habits';
	import { readingFor } from '$lib/ui/mine';
	import { inWords } from '$lib/ui/wording';

	interface Props {
		line: BookReading;
		timeZone: string;
		ondone: () => void;
	}
	let { line, timeZone, ondone }: Props = $props();

	// The parent makes this anew for another reading.
	// svelte-ignore state_referenced_locally
	const before = draftOf(line.raw);
	// svelte-ignore state_referenced_locally
	let version = $state(line.methodVersionId);
	let text = $state(before.text ?? '');
	// svelte-ignore state_referenced_locally
	let when = $state(DateTime.fromISO(line.takenAt, { zone: timeZone }).toFormat("yyyy-MM-dd'T'HH:mm"));
	// svelte-ignore state_referenced_locally
	let sampleSize = $state(line.sampleSize ?? '');
	let readAs = $state(before.readAs);
	let reason = $state('');

	/** The kit it was read by, as it was then: an earlier version of it, or another member's, is not among the asker's. */
	let then: Method | undefined = $state.raw();
	let methods: { versionId: string; profile: Method }[] = $state.raw([]);
	/** What is typed meanwhile stays, and is understood when it is known by which kit. */
	let looking = $state(true);
	$effect(() => {
		void Promise.all([
			call<{ method: Method }>('GET', `/api/v1/readings/${line.id}`),
			call<{ methods: typeof methods }>('GET', '/api/v1/methods')
		]).then(([held, mine]) => {
			if (held.ok) {
				then = held.value.method;
				// A value from elsewhere is written as its keeper counts; what was typed meanwhile stays.
				if (text === before.text) text = draftOn(then, line.raw).text ?? text;
			}
			if (mine.ok) methods = mine.value.methods;
			looking = false;
		});
	});
	const kits = $derived.by(() => {
		const mine = methods.filter((m) => m.profile.parameter === line.parameter);
		return then && !mine.some((m) => m.versionId === line.methodVersionId)
			? [{ versionId: line.methodVersionId, profile: then }, ...mine]
			: mine;
	});
	const kit = $derived(kits.find((m) => m.versionId === version));
	const draft = $derived(
		kit && {
			...freshDraft(kit.profile),
			...before,
			text,
			...(readAs ? { readAs } : {}),
			...(sampleSize ? { sampleSize } : {})
		}
	);
	const seen = $derived(kit && draft ? readingOf(kit.profile, draft) : undefined);
	const outcome = $derived(
		kit && seen?.ok
			? read(
					readingRequest(kit.profile, seen.value, {
						sampleSize: kit.profile.samples && draft?.sampleSize,
						proved: kit.versionId === line.methodVersionId ? (line.proof ?? undefined) : undefined
					})
				)
			: seen
	);
	// What a method takes away is known on the server alone.
	const needsOther = $derived(kit?.profile.takeAway !== undefined);
	const result = $derived(outcome?.ok && 'budget' in outcome.value ? outcome.value : undefined);
	const own = $derived(result && expressedIn(result, line.parameter, unitFor(line.parameter) || line.unit));
	const problem = $derived(
		!kit
			? undefined
			: seen && !seen.ok
				? seen.problems[0]?.message
				: outcome && !outcome.ok && !needsOther
					? outcome.problems[0]?.message
					: undefined
	);
	const moment = $derived(DateTime.fromISO(when, { zone: timeZone }));
	const ready = $derived(
		!looking && reason.trim() !== '' && moment.isValid && (kit ? seen?.ok && !problem : true)
	);

	function save(event: Event) {
		event.preventDefault();
		if (!ready) return;
		// The form knows minutes: a moment that was not touched keeps its seconds.
		const same =
			moment.toFormat('yyyyLLddHHmm') ===
			DateTime.fromISO(line.takenAt, { zone: timeZone }).toFormat('yyyyLLddHHmm');
		const body: CorrectReading = {
			basedOn: line.revision,
			takenAt: same ? line.takenAt : moment.toUTC().toISO()!,
			methodVersionId: version,
			reading: seen?.ok ? seen.value : line.raw,
			...((kit ? kit.profile.samples : line.sampleSize) && sampleSize ? { sampleSize } : {}),
			...(line.takenAwayId ? { takenAwayId: line.takenAwayId } : {}),
			reason: reason.trim()
		};
		post(
			correctingReading(
				line.id,
				body,
				`the correction of ${inWords(readingFor(line), readingFor(line).unit)}`
			)
		);
		ondone();
	}
</script>

<form class="mt-2 flex flex-wrap items-end gap-3 text-sm text-faint" onsubmit={save} data-testid="correct">
	<Label
		>Seen
		<Input
			class="figure"
			bind:value={text}
			autofocus
			disabled={!looking && !kit}
			aria-invalid={problem ? 'true' : undefined}
			aria-describedby="correct-{line.id}"
			data-seen
		/></Label
	>
	{#if kit?.profile.reads === 'syringe'}
		<Label
			>as
			<Select placeholder="" bind:value={readAs}><option>left</option><option>used</option></Select></Label
		>
	{/if}
	<Label
		>Method
		<Select class="max-w-60" placeholder="" bind:value={version}>
			{#if !kits.some((m) => m.versionId === line.methodVersionId)}<option value={line.methodVersionId}
					>{line.methodName} (as it was)</option
				>{/if}
			{#each kits as m (m.versionId)}<option value={m.versionId}>{m.profile.name}</option>{/each}
		</Select></Label
	>
	{#if kit?.profile.samples}
		<Label
			>Sample
			<Select placeholder="" value={draft?.sampleSize} onchange={(e) => (sampleSize = e.currentTarget.value)}>
				{#each kit.profile.samples as s (s.id)}<option value={s.id}>{s.id}, {s.ml} mL</option>{/each}
			</Select></Label
		>
	{/if}
	<Label>When <Input type="datetime-local" bind:value={when} /></Label>
	<Label class="min-w-52 flex-1"
		>Why <Input bind:value={reason} maxlength={300} placeholder="read off the wrong line" data-why /></Label
	>
	<Button type="submit" disabled={!ready}>Correct</Button>
	<button type="button" class="min-h-11 px-2 text-plum" onclick={ondone}>Cancel</button>
	<p id="correct-{line.id}" class="w-full {problem ? 'text-brick' : ''}" aria-live="polite">
		{problem
			? `▲ ${problem}`
			: own
				? `becomes ${inWords(own, own.unit)}`
				: needsOther
					? 'computed when it is saved'
					: ''}
	</p>
</form>
