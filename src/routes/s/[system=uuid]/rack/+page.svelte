<script lang="ts">
	import * as say from '$messages/rack';
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { PARAMETERS, nameInSentence, titleOf } from '$core/catalogue';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { figures } from '$lib/ui/habits';
	import { volumeFor, volumeUnit } from '$lib/ui/mine';
	import AsOf from '$lib/ui/shell/AsOf.svelte';
	import Rack from '$lib/ui/rack/Rack.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();

	const measured = $derived(new Set(Object.keys(data.tubes)));
	const others = $derived(data.systems.filter((s) => s.id !== data.system.id));

	/** Which tubes stand where is the keeper's choice, on this device. */
	let order: string[] | undefined = $state();
	let arranging = $state(false);
	const orderName = $derived(`rack.${data.system.id}`);
	onMount(() => {
		order = readDraft<string[]>(orderName);
	});
	const shown = $derived(order ?? PARAMETERS.filter((p) => measured.has(p.id)).map((p) => p.id as string));
	function arrange(next: string[] | undefined) {
		order = next;
		keepDraft(orderName, next);
	}
	function shift(id: string, by: -1 | 1) {
		const next = [...shown];
		const at = next.indexOf(id);
		next.splice(at, 1);
		next.splice(at + by, 0, id);
		arrange(next);
	}
	const beside = (id: string) =>
		goto(id ? `?beside=${id}` : page.url.pathname, { noScroll: true, keepFocus: true });
</script>

<Title of="Rack" />

<AsOf asOf={data.asOf} timeZone={data.system.timeZone} />
<div class="grid gap-6 lg:grid-cols-[minmax(0,1fr)_17rem]">
	<section aria-label="Rack" class="min-w-0">
		<div class="flex flex-wrap items-center gap-x-3">
			<h1>{data.system.name}</h1>
			<p class="text-sm text-faint">
				{figures(volumeFor(data.system.netVolumeL))}
				{volumeUnit()} of water · ppm and mg/L mean the same here
			</p>
			<span class="ms-auto flex flex-wrap items-center gap-2 text-sm text-faint">
				{#if others.length}
					<Label>
						<span class="sr-only">{say.compareWith()}</span>
						<Select
							classes={{
								select: 'bg-transparent text-sm text-faint dark:bg-transparent dark:text-faint'
							}}
							placeholder=""
							value={data.beside?.system.id ?? ''}
							onchange={(e) => beside(e.currentTarget.value)}
						>
							<option value="">{say.thisOnly()}</option>
							{#each others as s (s.id)}<option value={s.id}>{say.besideTank({ tank: s.name })}</option
								>{/each}
						</Select>
					</Label>
				{/if}
				<button
					class="min-h-11 rounded-lg px-2 hover:bg-plum-wash hover:text-ink"
					aria-expanded={arranging}
					aria-controls="order"
					onclick={() => (arranging = !arranging)}>{say.arrange()}</button
				>
			</span>
		</div>
		{#if measured.size || data.kits}<p class="mt-1 leading-snug lg:hidden">{data.tonight}</p>{/if}
		{#if data.dueNow}
			<Button class="mt-1 min-h-14 w-full lg:hidden" href="/s/{data.system.id}/bench"
				>{say.planSession({ n: data.dueNow })}</Button
			>
		{/if}
		{#if arranging}
			<ul id="order" class="flex flex-wrap gap-1 py-2 text-sm" aria-label={say.order()}>
				{#each shown as id, i (id)}
					<li class="flex items-center rounded-lg border">
						<button
							class="nudge"
							disabled={i === 0}
							aria-label={say.moveLeft({ parameter: nameInSentence(id) })}
							onclick={() => shift(id, -1)}>←</button
						>
						<span>{titleOf(id)}</span>
						<button
							class="nudge"
							disabled={i === shown.length - 1}
							aria-label={say.moveRight({ parameter: nameInSentence(id) })}
							onclick={() => shift(id, 1)}>→</button
						>
						<button
							class="nudge"
							aria-label={say.takeOut({ parameter: nameInSentence(id) })}
							onclick={() => arrange(shown.filter((s) => s !== id))}>✕</button
						>
					</li>
				{/each}
				{#each PARAMETERS.filter((p) => measured.has(p.id) && !shown.includes(p.id)) as p (p.id)}
					<li>
						<button
							class="min-h-11 rounded-lg border border-dashed px-3"
							onclick={() => arrange([...shown, p.id])}>+ {p.title}</button
						>
					</li>
				{/each}
				<li>
					<button class="link px-3" onclick={() => arrange(undefined)}>{say.resetOrder()}</button>
				</li>
			</ul>
		{/if}

		<div class="mt-3">
			<Rack
				system={data.system}
				tubes={data.tubes}
				bands={data.bands}
				now={data.now}
				{...order ? { order } : {}}
			/>
		</div>
		{#if data.beside}
			<div class="mt-6 flex items-baseline gap-3">
				<h2 class="text-xl">{data.beside.system.name}</h2>
				<a class="text-sm text-plum underline" href="/s/{data.beside.system.id}/rack">{say.openTank()}</a>
			</div>
			<div class="mt-3">
				<Rack
					system={data.beside.system}
					tubes={data.beside.tubes}
					bands={data.beside.bands}
					now={data.now}
				/>
			</div>
		{/if}
	</section>

	<aside aria-label={say.whatToDo()} class="lg:border-l lg:pl-5">
		<h2>{say.today()}</h2>
		{#if measured.size === 0 && !data.kits}
			<p class="mt-2">
				{say.emptyRack()}
			</p>
			<Button class="mt-3 min-h-14 w-full text-lg" href="/s/{data.system.id}/shelf/new"
				>{say.addFirstKit()}</Button
			>
		{:else}
			<p class="mt-1 leading-snug" data-testid="tonight">{data.tonight}</p>
			{#if data.dueNow}
				<Button class="mt-2 min-h-14 w-full text-lg" href="/s/{data.system.id}/bench"
					>{say.planSession({ n: data.dueNow })}</Button
				>
			{/if}
			{#if data.judgements.length}
				<h2 class="mt-4">{say.attention()}</h2>
				<ul class="mt-1 mb-4 divide-y" data-testid="judgements">
					{#each data.judgements as j (`${j.kind} ${j.parameter}`)}
						<li class="py-2" data-kind={j.kind}>
							<p class="leading-snug">
								<span class="text-{j.tone}" aria-hidden="true"
									>{j.tone === 'brick' ? '▲' : j.tone === 'saffron' ? '◐' : '●'}</span
								>
								{j.text}
							</p>
							<p class="mt-0.5 text-sm text-faint">{j.why}</p>
							<span class="flex flex-wrap gap-x-4">
								<a class="link text-sm" href={j.href}>{j.act}</a>
								{#if j.tells}<a class="link text-sm" href={j.tells.href}>{j.tells.act}</a>{/if}
							</span>
						</li>
					{/each}
				</ul>
				<p class="-mt-2 mb-3">
					<a class="link text-sm" href="/s/{data.system.id}/adjust">{say.showPlan()}</a>
				</p>
			{/if}
			<h2>{say.nextTests()}</h2>
			<ul class="mt-1 divide-y" data-testid="due">
				{#each data.due as d (d.parameter)}
					<li class="flex items-center justify-between gap-2 py-1">
						<span class="min-w-0">
							<span class="font-medium">{titleOf(d.parameter)}</span>
							<span class="block text-sm leading-snug text-faint">{d.why}</span>
						</span>
						<a
							class="link shrink-0 px-2 text-sm"
							href="/s/{data.system.id}/bench/one?of={d.parameter}"
							aria-label={say.measureIt({ parameter: nameInSentence(d.parameter) })}>{say.measure()}</a
						>
					</li>
				{/each}
			</ul>
			<p class="mt-2 text-sm text-faint">
				<a class="link" href="/s/{data.system.id}/reminders">{say.reminders()}</a>
			</p>
		{/if}
	</aside>
</div>

<style>
	.nudge {
		min-width: 2.75rem;
		min-height: 2.75rem;
		color: var(--faint-ink);
	}
	.nudge:hover:not(:disabled) {
		background: var(--plum-wash);
	}
	.nudge:disabled {
		opacity: 0.35;
	}
</style>
