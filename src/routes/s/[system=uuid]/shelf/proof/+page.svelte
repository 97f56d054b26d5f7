<script lang="ts">
	/** Is it the kit, is it the hand, is it a difference: what was read says it. */
	import { goto, invalidateAll } from '$app/navigation';
	import { DateTime } from 'luxon';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { formatUnit, type Quantity } from '$core/quantities';
	import { PARAMETERS, nameInSentence, titleOf } from '$core/catalogue';
	import { COVERAGE_95, median } from '$core/statistics';
	import type { Check } from '$lib/api/kit-checks';
	import { call } from '$lib/client/api';
	import { saveEvent, voidEvent } from '$lib/client/commands';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { figures, unitFor } from '$lib/ui/habits';
	import { changeFor, valueFor } from '$lib/ui/mine';
	import { checkHref, sameWaterHref } from '$lib/ui/bench/same-water';
	import Addition from '$lib/ui/checks/Addition.svelte';
	import Control from '$lib/ui/checks/Control.svelte';
	import NewReference from '$lib/ui/checks/NewReference.svelte';
	import Pair from '$lib/ui/checks/Pair.svelte';
	import { dateOnly, daysAgo } from '$lib/ui/when';
	import { plural } from '$lib/ui/words/plural';
	import {
		bestInWords,
		chartInWords,
		checkInWords,
		differenceInWords,
		minutes,
		readsByInWords,
		seeingInWords,
		takenInWords,
		tellsInWords
	} from '$lib/ui/words/checks';
	import Title from '$lib/ui/shell/Title.svelte';
	import Sideways from '$lib/ui/shell/Sideways.svelte';

	let { data } = $props();
	const checks = $derived(data.checks);
	const of = $derived(checks.parameter as Quantity);
	const unit = $derived(unitFor(of));
	const mayWrite = $derived(data.system.role !== 'viewer');
	const title = $derived(titleOf(of));
	const to = (query: Record<string, string>) =>
		goto(`?${new URLSearchParams({ of, ...query })}`, { noScroll: true, keepFocus: true });
	const nameOf = (id: string) => checks.kits.find((k) => k.id === id)?.name ?? '';
	const near = $derived(median((checks.pair?.points ?? []).flatMap((p) => [p.a, p.b])));
	const error = (u: number | undefined) =>
		u === undefined ? '' : `± ${figures(Math.abs(changeFor(of, COVERAGE_95 * u, near)), 2)}`;

	const isOff = ({ result }: Check) => result.verdict === 'reads-high' || result.verdict === 'reads-low';
	/** A word about a bias is of its pack: from its opening, or from the day of the first check where no opening is known. */
	const since = (check: Check) =>
		check.packOpened ??
		DateTime.fromISO(check.first, { zone: data.system.timeZone }).startOf('day').toUTC().toISO()!;
	const offer = (check: Check) =>
		`${takenInWords(of, { takenOff: check.result.trueness!.bias }, true)} what this pack reads, since ${dateOnly(since(check), data.system.timeZone)}`;
	let trouble: string | undefined = $state();
	async function keepWord(done: Awaited<ReturnType<typeof call>>) {
		trouble = done.ok ? undefined : done.problems[0]?.message;
		await invalidateAll();
	}
	async function takeOff({ id, name, check }: (typeof checks.kits)[number]) {
		const { bias, corrected } = check!.result.trueness!;
		const event = {
			kind: 'correction' as const,
			parameter: of,
			methodId: id,
			method: name,
			takenOff: bias,
			standardUncertainty: corrected,
			by: check!.source
		};
		await keepWord(
			await saveEvent(uuid(), {
				systemId: data.system.id,
				at: since(check!),
				event
			})
		);
	}
	const leave = async ({ id }: { id: string }, name: string) =>
		keepWord(await voidEvent(id, `nothing is taken off ${name} any more`));

	/** Fewer repeats than this say nothing of a scatter. */
	const ENOUGH = 3;
	const over = (until: string | null) => until !== null && until < data.now.slice(0, 10);
</script>

<Title of={[title, 'Kit checks']} />
<p class="text-sm"><a class="link" href="/s/{data.system.id}/shelf">Shelf</a></p>
<div class="flex flex-wrap items-end gap-x-4 gap-y-2">
	<h1>Kit checks</h1>
	<Label class="text-sm">
		<span class="sr-only">Parameter</span>
		<Select placeholder="" value={of} onchange={(e) => goto(`?of=${e.currentTarget.value}`)}>
			{#each PARAMETERS as p (p.id)}<option value={p.id}>{p.title}</option>{/each}
		</Select>
	</Label>
	<p class="text-sm text-faint">Is it the kit, is it the hand, is it a difference?</p>
</div>
{#if !checks.kits.length}
	<p class="mt-4 max-w-prose">
		Nothing was read by a kit of your own yet. What you measure shows here what each kit is worth: its time,
		its cost, its scatter, and how far it is off once you check it with water whose content is known.
	</p>
{:else}
	<section aria-label="Kits" class="mt-3">
		{#if bestInWords(checks, of)}<p class="mb-2">{bestInWords(checks, of)}.</p>{/if}
		<Sideways name="Scorecards">
			<table class="w-full text-sm" data-testid="cards">
				<caption class="sr-only">What each kit is worth</caption>
				<thead>
					<tr class="text-faint">
						<th class="py-1 text-start font-normal" scope="col">Kit</th>
						<th class="py-1 ps-3 text-end font-normal" scope="col">One test, {formatUnit(unit)}</th>
						<th class="py-1 ps-3 text-end font-normal" scope="col">Scatter of repeats</th>
						<th class="py-1 ps-3 text-end font-normal" scope="col">Off</th>
						<th class="py-1 ps-3 text-end font-normal" scope="col">Hands</th>
						<th class="py-1 ps-3 text-end font-normal" scope="col">A test costs</th>
						<th class="py-1 ps-3 text-start font-normal" scope="col">Last check</th>
					</tr>
				</thead>
				<tbody>
					{#each checks.kits as { id, name, readings, card, check } (id)}
						<tr class="border-t">
							<th class="py-2 text-start font-medium" scope="row"
								>{name} <span class="font-normal text-faint">{readings}×</span>
								{#if card.seeing}<span class="block text-sm font-normal text-faint"
										>{seeingInWords(card.seeing)}</span
									>{/if}</th
							>
							<td class="figure py-2 ps-3 text-end whitespace-nowrap">{error(card.standardUncertainty)}</td>
							<td class="figure py-2 ps-3 text-end"
								>{card.scatter
									? card.scatter.pairs < ENOUGH
										? plural(card.scatter.pairs, 'pair')
										: `${error(card.scatter.value)}, ${plural(card.scatter.pairs, 'pair')}`
									: ''}</td
							>
							<td class="figure py-2 ps-3 text-end"
								>{card.bias
									? `${card.bias.value < 0 ? '−' : '+'}${figures(Math.abs(changeFor(of, card.bias.value, near)), 2)}`
									: ''}</td
							>
							<td class="figure py-2 ps-3 text-end">{card.hands ? minutes(card.hands) : ''}</td>
							<td class="figure py-2 ps-3 text-end">{card.cost === undefined ? '' : figures(card.cost, 2)}</td
							>
							<td class="py-2 ps-3"
								>{check ? daysAgo(check.last, data.now, data.system.timeZone) : 'never checked'}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</Sideways>
	</section>
	<div class="mt-6 grid gap-x-8 gap-y-6 lg:grid-cols-2">
		<section aria-label="Checks" class="min-w-0" data-testid="checks">
			<h2>Against what is known</h2>
			{#each checks.kits.filter((k) => k.check ?? k.taken) as kit (kit.id)}
				{@const { name, check, taken, earlierPacks } = kit}
				{#if taken && !check}<p class="mt-2 font-medium">{name}</p>{/if}
				{#if check}
					<article class="mt-2">
						<h3 class="font-medium">
							{name}{#if check.packOpened}<span class="font-normal text-faint"
									>, pack opened {dateOnly(check.packOpened, data.system.timeZone)}</span
								>{/if}
						</h3>
						<p class="mt-1 leading-snug">{checkInWords(of, check, taken)}</p>
						{#each chartInWords(of, check.result) as said (said)}
							<p class="mt-1 leading-snug text-saffron">◐ {said}</p>
						{/each}
						{#if over(check.until)}
							<p class="mt-1 text-saffron">◐ {check.source} is past its date: check with a fresh one.</p>
						{/if}
						{#if check.result.control && check.tests > 1}
							<Control parameter={of} {name} control={check.result.control} timeZone={data.system.timeZone} />
						{/if}
						{#if mayWrite && !taken && isOff(check)}
							<p class="mt-2">
								<Button color="alternative" onclick={() => takeOff(kit)}>{offer(check)}</Button>
							</p>
						{/if}
						{#each earlierPacks as before (before.packOpened)}
							<details class="mt-2 text-sm">
								<summary class="min-h-11 cursor-pointer py-2.5 text-faint"
									>The pack before, last checked {dateOnly(before.last, data.system.timeZone)}</summary
								>
								<p class="leading-snug">{checkInWords(of, before)}</p>
								{#if before.result.control && before.tests > 1}
									<Control
										parameter={of}
										name="{name}, the pack before"
										control={before.result.control}
										timeZone={data.system.timeZone}
									/>
								{/if}
							</details>
						{/each}
					</article>
				{/if}
				{#if taken}
					<p class="mt-2 flex flex-wrap items-center gap-x-3" data-testid="taken">
						<span class="min-w-0 flex-1 text-sm"
							>◆ {takenInWords(of, taken)}, since {dateOnly(taken.at, data.system.timeZone)}, until its next
							pack</span
						>
						{#if mayWrite}<Button size="sm" color="alternative" onclick={() => leave(taken, name)}
								>Take nothing off</Button
							>{/if}
					</p>
				{/if}
			{:else}
				<p class="mt-1 text-sm text-faint">
					No kit of {nameInSentence(of)} was tested with water whose content is known. That is the only way to know
					which one is right.
				</p>
			{/each}
			<Trouble says={trouble} />
			<h2 class="mt-6">References</h2>
			<ul class="mt-1 divide-y" data-testid="references">
				{#each checks.references.filter((r) => r.drawn === null) as r (r.id)}
					<li class="flex flex-wrap items-center gap-x-3 py-1">
						<span class="min-w-0 flex-1 max-sm:basis-full"
							>{r.name}
							<span class="figure text-sm text-faint"
								>{figures(valueFor(of, r.value), 4)} ± {figures(
									Math.abs(changeFor(of, COVERAGE_95 * r.standardUncertainty, r.value)),
									2
								)}
								{formatUnit(unit)}{r.until
									? `, until ${dateOnly(`${r.until}T12:00:00Z`, data.system.timeZone)}`
									: ''}{r.readsBy ? `, for a ${readsByInWords(r.readsBy)}` : ''}</span
							></span
						>
						<a class="link px-2" href="/s/{data.system.id}/bench/one?of={of}&water={r.id}"
							>Check a kit with it</a
						>
						{#if checks.kits[0]}<a class="link px-2" href={checkHref(data.system.id, checks.kits[0].id, r.id)}
								>in an evening, twice</a
							>{/if}
					</li>
				{/each}
			</ul>
			<p class="mt-1 text-sm text-faint">
				A <a class="text-plum underline" href="/s/{data.system.id}/shelf/lab">lab’s sheet</a> proves the kits that
				tested the same water within three hours of its sample.
			</p>
			{#if mayWrite}<NewReference parameter={of} own={checks.unit} system={data.system.id} />{/if}
			<Addition parameter={of} kits={checks.kits} now={data.now} />
		</section>
		<section aria-label="Two kits" class="min-w-0 lg:border-l lg:pl-6" data-testid="pair">
			<h2>Two kits on the same water</h2>
			{#if checks.pair && checks.kits.length > 1}
				{@const { a, b, points, result } = checks.pair}
				<div class="mt-1 grid grid-cols-2 gap-3">
					{#each [['a', a, b], ['b', b, a]] as const as [side, id, other] (side)}
						<Label class="text-sm">
							<span class="sr-only">{side === 'a' ? 'One kit' : 'The other'}</span>
							<Select
								placeholder=""
								value={id}
								onchange={(e) =>
									to(
										side === 'a'
											? { a: e.currentTarget.value, b: other }
											: { a: other, b: e.currentTarget.value }
									)}
							>
								{#each checks.kits as k (k.id)}<option value={k.id} disabled={k.id === other}>{k.name}</option
									>{/each}
							</Select>
						</Label>
					{/each}
				</div>
				{#if result}
					<p class="mt-2 leading-snug" data-testid="difference">
						{differenceInWords(of, near, [nameOf(a), nameOf(b)], result, points.length)}
						{#if result.verdict !== 'no-difference'}{tellsInWords(
								[a, b].flatMap((id) => checks.kits.filter((k) => k.id === id))
							)}{/if}
					</p>
					{#if result.limits}
						<p class="mt-1 text-sm text-faint">
							Of a hundred such pairs, 95 differ by {figures(changeFor(of, result.limits.lower, near), 2)} to {figures(
								changeFor(of, result.limits.upper, near),
								2
							)}
							{formatUnit(unit)}.
						</p>
					{/if}
					<Pair parameter={of} names={[nameOf(a), nameOf(b)]} {points} />
				{:else}
					<p class="mt-2 text-sm text-faint">
						They were never used on the same water within three hours. Test one water with both, twice each,
						in one evening, and see here whether they differ.
					</p>
				{/if}
				<p class="mt-2">
					<a class="link" href={sameWaterHref(data.system.id, [a, b])} data-testid="same-water"
						>Same water, both kits, each twice</a
					>
				</p>
			{:else}
				<p class="mt-1 text-sm text-faint">
					With a second kit of {nameInSentence(of)}, both on the same water show here whether they differ.
				</p>
			{/if}
		</section>
	</div>
{/if}
