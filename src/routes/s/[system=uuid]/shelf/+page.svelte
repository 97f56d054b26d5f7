<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Table from 'flowbite-svelte/Table.svelte';
	import TableBody from 'flowbite-svelte/TableBody.svelte';
	import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
	import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
	import TableHead from 'flowbite-svelte/TableHead.svelte';
	import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { instrumentOf, type Method } from '$core/instruments';
	import { checkMethod, hasOwnChart } from '$core/methods';
	import { decimalsOf, formatUnit, slopeAt, valueIn } from '$core/quantities';
	import { PARAMETERS, parameterOf } from '$core/catalogue';
	import { summarise } from '$core/shelf';
	import type { Pack } from '$lib/api/methods';
	import { DAY, type Problem } from '$core/base';
	import { figures, numeral, parameterFor, unitFor } from '$lib/ui/habits';
	import { monthOf } from '$lib/ui/when';
	import { plural } from '$lib/ui/words/plural';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { packed } from '$lib/ui/shelf/kit-link';
	import Bottles from '$lib/ui/shelf/Bottles.svelte';
	import PackForm from '$lib/ui/shelf/PackForm.svelte';
	import { below } from '$lib/client/api';
	import { removePack, savePack, takeMethod } from '$lib/client/commands';
	import { keepDraft, readDraft } from '$lib/client/drafts';
	import { onMount } from 'svelte';
	import { takeFile } from '$lib/ui/shelf/shared-file';
	import Title from '$lib/ui/shell/Title.svelte';
	import Sideways from '$lib/ui/shell/Sideways.svelte';

	let { data } = $props();
	let of = $state('');
	let view: 'cards' | 'table' = $state('cards');
	let packing: string | undefined = $state();
	let refused: Problem[] = $state([]);
	onMount(() => (view = readDraft<'cards' | 'table'>('shelf.view') ?? 'cards'));

	/** Where kits are compared: the middle of the keeper's band, or of what such water shows. */
	function targetOf(m: Method): number {
		const p = parameterFor(m.parameter);
		const band = data.bands[m.parameter];
		const middle = band ? (band.lower + band.upper) / 2 : p ? (p.plausible[0] + p.plausible[1]) / 2 : 1;
		return p ? valueIn(m.parameter, middle, p.unit, m.unit) : middle;
	}
	/** The same in the unit this keeper counts in. */
	function worth(m: Method) {
		const [target, unit] = [targetOf(m), unitFor(m.parameter) || m.unit];
		const error = summarise(m, target).errorAtTarget ?? 0;
		return {
			unit,
			target: valueIn(m.parameter, target, m.unit, unit),
			error: error * Math.abs(slopeAt(m.parameter, target, m.unit, unit))
		};
	}
	const rows = $derived(
		data.methods
			.filter((m) => !of || m.profile.parameter === of)
			.map((m) => ({
				...m,
				title: parameterOf(m.profile.parameter)?.title ?? m.profile.parameter,
				target: targetOf(m.profile),
				summary: summarise(m.profile, targetOf(m.profile)),
				mine: worth(m.profile),
				packs: data.packs.filter((p) => p.methodId === m.id)
			}))
			.sort(
				(a, b) =>
					order(a.profile.parameter) - order(b.profile.parameter) ||
					a.profile.name.localeCompare(b.profile.name)
			)
	);
	const order = (id: string) => PARAMETERS.findIndex((p) => p.id === id);
	const minutes = (seconds: number) =>
		seconds < 60 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`;
	const number = (x: number, error = x / 100) => numeral(x, decimalsOf(error));
	const step = (x: number) => figures(x, 2);

	function lasts(p: Pack): string {
		if (p.left === 0) return 'used up';
		if (p.pace === null) return `${plural(p.left, 'test')} left`;
		const until = new Date(Date.parse(data.now) + (p.left / p.pace) * DAY);
		const when = monthOf(until, data.system.timeZone);
		return `${plural(p.left, 'test')} left, enough until ${when}`;
	}
	let finished: Pack | undefined = $state();
	/** A pack leaves the shelf; for a while it can be put back. */
	async function finish(p: Pack) {
		const done = await removePack(p.id);
		refused = done.ok ? [] : done.problems;
		if (!done.ok) return;
		finished = p;
		await invalidateAll();
	}
	async function putBack() {
		if (!finished) return;
		const { id, left: _left, pace: _pace, ...pack } = finished;
		const done = await savePack(id, pack);
		refused = done.ok ? [] : done.problems;
		if (!done.ok) return;
		finished = undefined;
		await invalidateAll();
	}
	const tooOld = (p: Pack) => p.bestBefore !== undefined && p.bestBefore < data.now.slice(0, 10);

	/** A shared file becomes a method of the keeper's own; what is wrong with it is said with its place. */
	async function take(event: Event) {
		refused = [];
		refused = await takeFile(event, async (profile) => {
			const taken = await takeMethod(uuid(), profile);
			if (!taken.ok) return below('/profile', taken.problems);
			await invalidateAll();
			return [];
		});
	}
	function show(which: 'cards' | 'table') {
		view = which;
		keepDraft('shelf.view', which);
	}
	/** A link holds the kit itself: whoever opens it, on whichever server, can put it on their shelf. */
	let copied: string | undefined = $state();
	async function share(row: (typeof rows)[number]) {
		await navigator.clipboard.writeText(`${location.origin}/kit#${await packed(row.profile)}`);
		copied = row.id;
	}
	const sound = (m: Method) => checkMethod(m).length === 0;
</script>

<Title of="Shelf" />
<div class="flex flex-wrap items-center gap-3">
	<h1>Shelf</h1>
	<Label>
		<span class="sr-only">Parameter</span>
		<Select placeholder="" bind:value={of}>
			<option value="">all parameters</option>
			{#each PARAMETERS as p (p.id)}<option value={p.id}>{p.title}</option>{/each}
		</Select>
	</Label>
	<div class="flex gap-1" role="group" aria-label="Shown as">
		<Button
			size="sm"
			color={view === 'cards' ? 'primary' : 'alternative'}
			aria-pressed={view === 'cards'}
			onclick={() => show('cards')}>Cards</Button
		>
		<Button
			size="sm"
			color={view === 'table' ? 'primary' : 'alternative'}
			aria-pressed={view === 'table'}
			onclick={() => show('table')}>Table</Button
		>
	</div>
	<span class="flex-1"></span>
	<Button color="alternative" href="/s/{data.system.id}/shelf/proof{of ? `?of=${of}` : ''}">Kit checks</Button
	>
	<Button color="alternative" href="/s/{data.system.id}/shelf/waters">Compare waters</Button>
	<Button color="alternative" href="/s/{data.system.id}/shelf/lab">Lab</Button>
	<Button href="/s/{data.system.id}/shelf/new">Add a kit</Button>
	<label
		class="flex min-h-11 cursor-pointer items-center rounded-lg border px-4 text-sm font-medium hover:bg-plum-wash"
	>
		Import a file
		<input type="file" accept=".json,application/json" class="sr-only" onchange={take} />
	</label>
</div>
{#each refused as problem (problem.path + problem.message)}
	<Trouble says="{problem.path} {problem.message}" />
{/each}

{#if finished}
	<p class="mt-2 flex items-center gap-3 text-sm" role="status">
		Pack {finished.label} is off the shelf.
		<Button size="sm" color="alternative" onclick={putBack}>Undo</Button>
	</p>
{/if}

{#snippet packs(row: (typeof rows)[number])}
	{#each row.packs as p (p.id)}
		<p class="text-sm">
			<span class="figure rounded bg-plum-wash px-1.5 font-semibold">{p.label}</span>
			{lasts(p)}{#if tooOld(p)}<span class="text-brick"> ▲ past its date</span>{/if}
			<button type="button" class="act" aria-label="Pack {p.label} is used up" onclick={() => finish(p)}
				>Used up</button
			>
		</p>
	{/each}
{/snippet}
{#snippet actions(row: (typeof rows)[number])}
	<a class="act" href="/s/{data.system.id}/bench/one?of={row.profile.parameter}&with={row.id}">Use</a>
	<a class="act" href="/s/{data.system.id}/shelf/{row.id}">Change</a>
	<a class="act" href="/s/{data.system.id}/shelf/new?from={row.id}">Copy</a>
	<a class="act" href="/api/v1/methods/{row.id}" download>File</a>
	<button type="button" class="act" onclick={() => share(row)}
		>{copied === row.id ? 'Link copied' : 'Link'}</button
	>
	<button type="button" class="act" onclick={() => (packing = packing === row.id ? undefined : row.id)}
		>Pack</button
	>
	{#if packing === row.id}
		<PackForm
			methodId={row.id}
			pack={row.profile.pack}
			today={data.now.slice(0, 10)}
			taken={data.packs.map((p) => p.label)}
			ondone={() => {
				packing = undefined;
				void invalidateAll();
			}}
		/>
	{/if}
{/snippet}

{#if !data.methods.length}
	<div class="mt-6 max-w-prose">
		<p>
			Here stand the kits and instruments you read by: what each is worth, what a test costs in money and
			minutes, and what is left in its packs.
		</p>
		<Button class="mt-3 min-h-14 px-6 text-lg" href="/s/{data.system.id}/shelf/new">Add your first kit</Button
		>
	</div>
{:else if view === 'cards'}
	<ul class="mt-3 grid gap-3 sm:grid-cols-2 xl:grid-cols-4">
		{#each rows as row (row.id)}
			<li class="flex flex-col rounded-xl border bg-sheet p-3">
				<p class="text-sm text-faint">
					{row.title} · {instrumentOf(row.profile).name.replace(/^an? /, '')}
				</p>
				<h2 class="leading-tight">{row.profile.name}</h2>
				<p class="figure mt-1 text-xl">
					{#if !hasOwnChart(row.profile)}
						<a
							class="inline-flex min-h-11 items-center rounded-lg bg-saffron-wash px-2 font-sans text-base"
							href="/s/{data.system.id}/shelf/{row.id}"
							data-testid="no-chart">○ no chart of yours yet: type its leaflet</a
						>
					{:else if row.summary.errorAtTarget !== null}
						± {number(row.mine.error, row.mine.error)}
						<span class="text-sm text-faint"
							>{formatUnit(row.mine.unit)} at {number(row.mine.target, row.mine.error)}</span
						>
					{:else}<span class="text-sm text-faint"
							>ends before {number(row.mine.target)} {formatUnit(row.mine.unit)}</span
						>{/if}
				</p>
				<p class="mt-1 text-sm text-faint">
					{#if row.profile.samples}{row.profile.samples.map((s) => figures(s.ml)).join(' or ')} mL ·{/if}
					{#if row.summary.step !== null}step {step(row.summary.step)} ·{/if}
					hands {minutes(row.summary.handsSeconds)}{row.summary.waitSeconds
						? ` · wait ${minutes(row.summary.waitSeconds)}`
						: ''}{row.summary.cost === null ? '' : ` · ${numeral(row.summary.cost, 2)} a test`}
				</p>
				<div class="mt-1 flex-1">{@render packs(row)}</div>
				<div class="mt-2 flex flex-wrap gap-1">{@render actions(row)}</div>
			</li>
		{/each}
	</ul>
{:else}
	<Sideways name="Methods compared" class="mt-3">
		<Table classes={{ div: 'overflow-x-visible' }}>
			<caption class="sr-only">Methods compared</caption>
			<TableHead>
				{#each ['Method', 'Read by', 'Sample, mL', 'Step', '± at target', 'Hands', 'Wait', 'A test', 'Packs', ''] as head (head)}
					<TableHeadCell scope="col">{head}</TableHeadCell>
				{/each}
			</TableHead>
			<TableBody>
				{#each rows as row (row.id)}
					<TableBodyRow class="align-top">
						<th scope="row" class="px-2 py-2 text-start font-medium"
							>{row.profile.name}{sound(row.profile) ? '' : ' ▲'}</th
						>
						<TableBodyCell>{instrumentOf(row.profile).name.replace(/^an? /, '')}</TableBodyCell>
						<TableBodyCell class="figure"
							>{row.profile.samples?.map((s) => figures(s.ml)).join(', ') ?? ''}</TableBodyCell
						>
						<TableBodyCell class="figure"
							>{row.summary.step === null ? '' : step(row.summary.step)}</TableBodyCell
						>
						<TableBodyCell class="figure">
							{row.summary.errorAtTarget === null
								? ''
								: `${number(row.mine.error, row.mine.error)} ${formatUnit(row.mine.unit)}`}
							{#if !hasOwnChart(row.profile)}<span class="block font-sans text-sm">○ no chart yet</span>{/if}
						</TableBodyCell>
						<TableBodyCell class="figure">{minutes(row.summary.handsSeconds)}</TableBodyCell>
						<TableBodyCell class="figure"
							>{row.summary.waitSeconds ? minutes(row.summary.waitSeconds) : ''}</TableBodyCell
						>
						<TableBodyCell class="figure"
							>{row.summary.cost === null ? '' : numeral(row.summary.cost, 2)}</TableBodyCell
						>
						<TableBodyCell>{@render packs(row)}</TableBodyCell>
						<TableBodyCell class="py-1"
							><div class="flex flex-wrap gap-1">{@render actions(row)}</div></TableBodyCell
						>
					</TableBodyRow>
				{/each}
			</TableBody>
		</Table>
	</Sideways>
{/if}
<p class="mt-4 max-w-prose text-sm text-faint">
	A file holds one method in the open format tevrik.method/1; its <a
		class="text-plum underline"
		href="/api/v1/methods/schema">schema</a
	> says what may stand in it. Errors are half of a 95 % interval at the middle of your band.
</p>

<Bottles bottles={data.bottles} system={data.system} now={data.now} />

<style>
	.act {
		display: inline-flex;
		align-items: center;
		justify-content: center;
		min-height: 2.75rem;
		min-width: 2.75rem;
		padding: 0 0.6rem;
		border-radius: 8px;
		font-size: 0.875rem;
		color: var(--plum);
	}
	.act:hover {
		background: var(--plum-wash);
	}
</style>
