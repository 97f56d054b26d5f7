<script lang="ts">
	import { enhance } from '$app/forms';
	import { goto, invalidateAll } from '$app/navigation';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import Alert from 'flowbite-svelte/Alert.svelte';
	import Table from 'flowbite-svelte/Table.svelte';
	import TableBody from 'flowbite-svelte/TableBody.svelte';
	import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
	import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
	import TableHead from 'flowbite-svelte/TableHead.svelte';
	import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
	import Radio from 'flowbite-svelte/Radio.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import { formatUnit, valueIn } from '$core/quantities';
	import { PARAMETERS } from '$core/catalogue';
	import { COVERAGE_95 } from '$core/statistics';
	import { amountIn } from '$core/quick';
	import { netVolume } from '$core/tank';
	import { SCHOOLS } from '$core/targets';
	import { takeBook as writeBook } from '$lib/client/commands';
	import Field from '$lib/ui/forms/Field.svelte';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';
	import { figures, typedAs, unitFor } from '$lib/ui/habits';
	import { sizeFields, valueFor, volumeFor, volumeUnit } from '$lib/ui/mine';
	import { dateAndTime } from '$lib/ui/when';
	import Title from '$lib/ui/shell/Title.svelte';
	import Sideways from '$lib/ui/shell/Sideways.svelte';

	let { data, form } = $props();
	const tank = $derived(data.tank);
	const mayChange = $derived(tank.role !== 'viewer');
	const owns = $derived(tank.role === 'owner');
	const wrong = $derived(form && 'problems' in form ? form : undefined);
	const said = $derived(form && 'said' in form ? form.said : undefined);
	const link = $derived(form && 'link' in form ? form.link : undefined);
	const typed = (name: string, otherwise: string | number | null | undefined) =>
		(wrong && 'typed' in wrong ? (wrong.typed as Record<string, string>)[name] : undefined) ??
		otherwise ??
		'';
	const keep =
		() =>
		({ update }: { update: (o: { reset: boolean }) => Promise<void> }) =>
			update({ reset: false });

	// svelte-ignore state_referenced_locally
	let volumeBy = $state(data.tank.sizes ? 'sizes' : 'measured');
	let sizes: Record<string, string> = $state(
		Object.fromEntries(
			sizeFields().flatMap(({ key, quantity, kept, unit }) => {
				const value = data.tank.sizes?.[key];
				return value === undefined ? [] : [[key, typedAs(valueIn(quantity, value, kept, unit), 4)]];
			})
		)
	);
	const volume = $derived.by(() => {
		const numbers: Record<string, number> = {};
		for (const { key, quantity, kept, unit } of sizeFields()) {
			const amount = amountIn(sizes[key] ?? '', quantity, kept, unit);
			if (amount.ok) numbers[key] = amount.value;
		}
		const { lengthCm, widthCm, depthCm, ...more } = numbers;
		if (!(lengthCm! > 0 && widthCm! > 0 && depthCm! > 0)) return undefined;
		return netVolume({ lengthCm: lengthCm!, widthCm: widthCm!, depthCm: depthCm!, ...more });
	});
	const SCHOOL_OF_ONES_OWN = 'own';
	const shown = $derived(PARAMETERS.filter((p) => tank.bands[p.id] || p.routine.settled !== undefined));
	const edgeText = (id: string, edge: 'lower' | 'upper') => tank.bands[id] && typedAs(tank.bands[id][edge]);
	let more = $state(false);
	const ROLES = { owner: 'owner', keeper: 'keeper', viewer: 'viewer' };
	const KINDS = ['new mix', 'tap', 'purified', 'reference', 'other'];

	let taking = $state('');
	async function takeBook(file: File | undefined) {
		if (!file) return;
		taking = 'Reading the book…';
		const id = uuid();
		const taken = await writeBook(id, file);
		if (taken.ok) {
			await invalidateAll();
			await goto(`/s/${id}/readings`);
		} else
			taking = `▲ It was not imported: ${taken.problems.map((p) => `${p.path} ${p.message}`.trim()).join('; ')}`;
	}
</script>

<Title of="Tank" />
<div class="flex flex-wrap items-center gap-4">
	<h1>{tank.name}</h1>
	<span class="text-sm text-faint">you are its {tank.role}</span>
	<p aria-live="polite" class="text-moss">{said ? `● ${said}` : ''}</p>
</div>
<Trouble says={problemAt(wrong, '')} />
<div class="mt-2 grid gap-x-10 gap-y-6 xl:grid-cols-2">
	<section>
		<h2>The tank</h2>
		<form method="POST" action="?/about" use:enhance={keep}>
			<fieldset disabled={!mayChange}>
				<div class="grid gap-x-3 sm:grid-cols-2">
					<Field
						name="name"
						label="Name"
						value={typed('name', tank.name)}
						problem={problemAt(wrong, '/name')}
					/>
					<Field
						name="timeZone"
						label="Time zone"
						value={typed('timeZone', tank.timeZone)}
						problem={problemAt(wrong, '/timeZone')}
					/>
					<Label class="mt-3">
						Stage
						<Select class="w-full" placeholder="" name="phase" value={typed('phase', tank.phase)}>
							<option value="new">just filled</option>
							<option value="cycling">cycling</option>
							<option value="young">first months</option>
							<option value="settled">settled</option>
						</Select>
					</Label>
					<Field
						name="salinityPsu"
						label="Salinity you hold, {formatUnit(unitFor('salinity'))}"
						inputmode="decimal"
						value={typed('salinityPsu', typedAs(valueFor('salinity', tank.salinityPsu), 5))}
						problem={problemAt(wrong, '/salinityPsu')}
						hint="the sea has {figures(
							valueFor('salinity', 35),
							5
						)}; another unit may stand behind the number"
					/>
				</div>
				<fieldset class="mt-2">
					<legend class="text-sm text-faint">Water in it</legend>
					<div class="flex gap-4">
						<Radio name="volume" value="measured" bind:group={volumeBy}>measured</Radio>
						<Radio name="volume" value="sizes" bind:group={volumeBy}>from its sizes</Radio>
					</div>
					{#if volumeBy === 'measured'}
						<Field
							name="netVolumeL"
							label="Net volume, {volumeUnit()}"
							inputmode="decimal"
							value={typed('netVolumeL', typedAs(volumeFor(tank.netVolumeL), 4))}
							problem={problemAt(wrong, '/netVolumeL')}
							hint="as filled, or from how far a known dose raised it; 100 gal is taken for US gallons"
						/>
					{:else}
						<div class="grid grid-cols-2 gap-x-3 sm:grid-cols-3">
							{#each sizeFields() as { key, title, unit } (key)}
								<Field
									name={key}
									label="{title}, {unit}"
									inputmode="decimal"
									value={sizes[key]}
									oninput={(e) => (sizes[key] = (e.currentTarget as HTMLInputElement).value)}
									problem={problemAt(wrong, `/sizes/${key}`)}
								/>
							{/each}
						</div>
						<p class="text-sm" aria-live="polite">
							{#if volume?.ok}
								{@const v = volume.value}
								<span class="figure">{figures(volumeFor(v.netVolumeL))}</span>
								{volumeUnit()} of water, ± {figures(volumeFor(COVERAGE_95 * v.standardUncertainty), 1)}; rock
								and sand push out {figures(volumeFor(v.displacedL), 2)}
								{volumeUnit()}.
							{:else if volume}<span class="text-brick">▲ rock and sand {volume.problems[0]?.message}</span>
							{:else}Length, width and depth of the water give its volume.{/if}
						</p>
					{/if}
				</fieldset>
				{#if mayChange}<Button type="submit" class="mt-3">Save</Button>{/if}
			</fieldset>
		</form>
		<h2 class="mt-6" id="waters">Other waters</h2>
		<p class="text-sm">
			<a class="link" href="/s/{tank.id}/shelf/waters">Set them side by side</a>
		</p>
		<ul class="mt-1 divide-y">
			{#each data.sources.filter((s) => s.kind !== 'tank') as s (s.id)}
				<li class="flex min-h-11 items-center gap-3">
					<span>{s.name}</span><span class="text-sm text-faint">{s.kind}</span>
				</li>
			{/each}
		</ul>
		{#if mayChange}
			<form method="POST" action="?/water" use:enhance class="flex flex-wrap items-start gap-3">
				<Field
					name="waterName"
					label="Another water"
					placeholder="Mixing bin"
					problem={problemAt(wrong, '/waterName')}
				/>
				<Label class="mt-3">
					which is
					<Select placeholder="" name="kind">
						{#each KINDS as k (k)}<option>{k}</option>{/each}
					</Select>
				</Label>
				<Button type="submit" color="alternative" class="mt-8">Add</Button>
			</form>
		{/if}
	</section>

	<section>
		<h2>What you aim at</h2>
		{#if mayChange}
			<form method="POST" action="?/school" use:enhance={keep} class="mt-1 flex flex-wrap gap-2">
				{#each SCHOOLS as s (s.id)}
					<Button
						type="submit"
						name="school"
						value={s.id}
						color={tank.school === s.id ? 'primary' : 'alternative'}
						title={s.why}
						aria-pressed={tank.school === s.id}>{s.title}</Button
					>
				{/each}
			</form>
			<p class="mt-1 text-sm text-faint">
				{SCHOOLS.find((s) => s.id === tank.school)?.why ?? 'Bands of your own.'} A school sets every band; each
				stays yours to change below.
			</p>
		{/if}
		<form method="POST" action="?/bands" use:enhance={keep} class="mt-2">
			<fieldset disabled={!mayChange}>
				<input
					type="hidden"
					name="school"
					value={SCHOOLS.some((s) => s.id === tank.school) ? tank.school : SCHOOL_OF_ONES_OWN}
				/>
				<Sideways name="Bands" id="bands">
					<Table classes={{ div: 'overflow-x-visible' }}>
						<caption class="sr-only">Bands by parameter</caption>
						<TableHead
							><TableHeadCell scope="col">Parameter</TableHeadCell><TableHeadCell scope="col"
								>from</TableHeadCell
							><TableHeadCell scope="col">to</TableHeadCell><TableHeadCell scope="col"
								><span class="sr-only">Unit</span></TableHeadCell
							></TableHead
						>
						<TableBody>
							{#each more ? PARAMETERS : shown as p (p.id)}
								{@const said = problemAt(wrong, `/bands/${p.id}`)}
								<TableBodyRow border={false}>
									<th scope="row" class="px-2 py-0.5 text-start font-normal">{p.title}</th>
									{#each ['lower', 'upper'] as const as edge (edge)}
										<TableBodyCell class="py-0.5">
											<Input
												class="figure w-24!"
												name="{p.id}.{edge}"
												aria-label="{p.title}, {edge === 'lower' ? 'from' : 'to'}"
												inputmode="decimal"
												value={typed(`${p.id}.${edge}`, edgeText(p.id, edge))}
												aria-invalid={said ? 'true' : undefined}
											/>
										</TableBodyCell>
									{/each}
									<TableBodyCell class="py-0.5"
										><span class={said ? 'text-brick' : 'text-faint'} role={said ? 'alert' : undefined}
											>{said ? `▲ ${said}` : formatUnit(unitFor(p.id))}</span
										></TableBodyCell
									>
								</TableBodyRow>
							{/each}
						</TableBody>
					</Table>
				</Sideways>
				<div class="mt-2 flex flex-wrap items-center gap-4">
					{#if mayChange}<Button type="submit">Save the bands</Button>{/if}
					<button
						type="button"
						class="link"
						aria-expanded={more}
						aria-controls="bands"
						onclick={() => (more = !more)}>{more ? 'Fewer parameters' : 'All parameters'}</button
					>
				</div>
			</fieldset>
		</form>
	</section>

	<section>
		<h2>People</h2>
		<ul class="mt-1 divide-y">
			{#each data.members as m (m.id)}
				<li class="flex flex-wrap items-center gap-x-3 py-1">
					<span class="font-medium">{m.name}{m.you ? ', you' : ''}</span>
					{#if 'email' in m}<span class="text-sm text-faint">{m.email}</span>{/if}
					<span class="flex-1"></span>
					{#if owns}
						<form method="POST" action="?/member" use:enhance={keep}>
							<input type="hidden" name="id" value={m.id} />
							<Select
								placeholder=""
								name="role"
								aria-label="What {m.name} is"
								value={m.role}
								onchange={(e) => e.currentTarget.form?.requestSubmit()}
							>
								{#each Object.keys(ROLES) as r (r)}<option>{r}</option>{/each}
								<option value="none">no member</option>
							</Select>
						</form>
					{:else}
						<span class="flex min-h-11 items-center text-sm text-faint">{m.role}</span>
						{#if m.you}
							<form method="POST" action="?/member" use:enhance={keep}>
								<input type="hidden" name="id" value={m.id} />
								<button name="role" value="none" class="min-h-11 px-2 text-brick">Leave this tank</button>
							</form>
						{/if}
					{/if}
				</li>
			{/each}
		</ul>
		{#if owns}
			<form method="POST" action="?/invite" use:enhance={keep} class="mt-2 flex flex-wrap items-center gap-3">
				<span>Invite somebody as</span>
				<Button type="submit" name="role" value="keeper" color="alternative">keeper</Button>
				<Button type="submit" name="role" value="viewer" color="alternative">viewer</Button>
				<span class="text-sm text-faint">A link for one person, good for a week.</span>
			</form>
			{#if link}
				<Alert color="amber" class="mt-2" role="status">
					Send this link; it is shown once: <code class="figure block break-all select-all" data-testid="link"
						>{link}</code
					>
				</Alert>
			{/if}
			<ul class="mt-1 divide-y text-sm">
				{#each data.invitations as i (i.id)}
					<li class="flex flex-wrap items-center gap-3">
						<span>A link for a {i.role}, until {dateAndTime(i.expiresAt.toISOString(), tank.timeZone)}</span>
						<form method="POST" action="?/withdraw" use:enhance={keep}>
							<input type="hidden" name="id" value={i.id} />
							<button class="min-h-11 px-2 text-brick">Withdraw</button>
						</form>
					</li>
				{/each}
			</ul>
		{/if}
	</section>

	<section>
		<h2>Files</h2>
		<ul class="mt-1 divide-y">
			<li>
				<a class="link" href="/api/v1/systems/{tank.id}/book" download>Export the whole book of this tank</a>
				<span class="text-sm text-faint">tevrik.book/1, with every revision, kit and evening</span>
			</li>
			<li>
				<a class="link" href="/api/v1/systems/{tank.id}/readings.csv?show=counted" download
					>Export its readings as CSV</a
				>
				<a class="link ms-3" href="/api/v1/systems/{tank.id}/readings.xlsx?show=counted" download>as XLSX</a>
				<span class="text-sm text-faint">in your units</span>
			</li>
			{#if mayChange}<li>
					<a class="link" href="/s/{tank.id}/import">Import a sheet</a>
					<span class="text-sm text-faint">any XLSX, ODS or CSV you have kept</span>
				</li>{/if}
			<li class="py-2">
				<label class="link cursor-pointer"
					>Import a book as another tank<input
						type="file"
						accept="application/json,.json"
						class="sr-only"
						onchange={(e) => void takeBook(e.currentTarget.files?.[0])}
					/></label
				>
				<span class="text-sm {taking.startsWith('▲') ? 'text-brick' : 'text-faint'}" aria-live="polite"
					>{taking || 'from this server or another'}</span
				>
			</li>
			<li>
				<a class="link" href="/s/{tank.id}/wall">Print one page</a>
				<span class="text-sm text-faint">one page, to print</span>
			</li>
			<li><a class="link" href="/s/{tank.id}/reminders">Reminders in your calendar</a></li>
		</ul>
	</section>
</div>
