<script lang="ts">
	/** A lab is one more method: a sample goes by post, its sheet comes back, and is held against the kits of that day. */
	import { invalidateAll } from '$app/navigation';
	import { v7 as uuid } from 'uuid';
	import Button from 'flowbite-svelte/Button.svelte';
	import { formatUnit } from '$core/quantities';
	import { parameterOf } from '$core/catalogue';
	import { SIMULATED_LAB } from '$core/simulate';
	import { COVERAGE_95 } from '$core/statistics';
	import type { TakenLabSheet } from '$lib/api/labs';
	import { saveEvent, takeLabSheet } from '$lib/client/commands';
	import { currentTime } from '$lib/ui/clock';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { unitFor } from '$lib/ui/habits';
	import { shownLevel } from '$lib/ui/wording';
	import { changeFor, valueFor } from '$lib/ui/mine';
	import { dateAndTime, dateOnly } from '$lib/ui/when';
	import { plural } from '$lib/ui/words/plural';
	import { besideInWords } from '$lib/ui/words/checks';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
	const mayWrite = $derived(data.system.role !== 'viewer');
	const zone = $derived(data.system.timeZone);
	const sheets = $derived(`/api/v1/systems/${data.system.id}/lab-sheets` as const);
	const title = (parameter: string) => parameterOf(parameter)?.title ?? parameter;
	function level(parameter: string, value: number, u: number): string {
		const half = Math.abs(changeFor(parameter, COVERAGE_95 * u, value));
		return Object.values(shownLevel(valueFor(parameter, value), half)).join(' ');
	}

	let trouble: string | undefined = $state();
	let taken: TakenLabSheet | undefined = $state.raw();
	let busy = $state(false);

	async function post() {
		busy = true;
		const at = currentTime(data.now).toISOString();
		const done = await saveEvent(uuid(), {
			systemId: data.system.id,
			at,
			event: { kind: 'posted', lab: SIMULATED_LAB, sample: `S-${at.slice(2, 16).replaceAll(/\D/g, '')}` }
		});
		trouble = done.ok ? undefined : done.problems[0]?.message;
		await invalidateAll();
		busy = false;
	}
	async function take(text: string) {
		busy = true;
		const done = await takeLabSheet(data.system.id, text);
		trouble = done.ok ? undefined : `This sheet ${done.problems[0]?.message ?? 'could not be taken'}.`;
		taken = done.ok ? done.value : undefined;
		await invalidateAll();
		busy = false;
	}
	async function fetchSheet(id: string) {
		const response = await fetch(`${sheets}/${id}`).catch(() => undefined);
		if (response?.ok) return take(await response.text());
		const said = (await response?.json().catch(() => undefined)) as { detail?: string } | undefined;
		trouble = said?.detail ?? 'There is no answer just now; nothing is lost. Try again.';
	}
	async function chosen(event: Event) {
		const input = event.currentTarget as HTMLInputElement;
		const file = input.files?.[0];
		if (file) await take(await file.text());
		input.value = '';
	}
	const isBack = (back: string) => Date.parse(back) <= Date.parse(data.now);
</script>

<Title of="Lab" />
<p class="text-sm"><a class="link" href="/s/{data.system.id}/shelf">Shelf</a></p>
<h1>Lab</h1>
<p class="max-w-prose text-faint">
	A lab is one more method, with an error of its own. Test the same water with your kits on the evening you
	draw its sample: when its sheet is back, it says which of them is right.
</p>
{#if mayWrite}
	<div class="mt-3 flex flex-wrap gap-3">
		<Button onclick={post} disabled={busy}>Draw a sample now, and post it</Button>
		<label
			class="flex min-h-11 cursor-pointer items-center rounded-lg border px-4 text-sm font-medium hover:bg-plum-wash"
		>
			Bring a lab’s sheet (CSV)
			<input type="file" accept=".csv,.txt,text/csv" class="sr-only" onchange={chosen} data-testid="sheet" />
		</label>
	</div>
	<p class="mt-1 text-sm text-faint">
		Samples go to {SIMULATED_LAB}, which ships with Tevrik and makes its answers from your own readings. A
		sheet of any lab is taken as a table of parameter, result, unit and ±, below lines that name the lab and
		the day.
	</p>
{/if}
<Trouble says={trouble} />
{#if taken}
	<p class="mt-2" role="status" data-testid="taken">
		✓ {plural(taken.readings.length, 'answer')} of {taken.lab}, of water drawn {dateAndTime(
			taken.drawn,
			zone
		)}.
		{#if taken.refused.length}Left out: {taken.refused
				.map((r) => `line ${r.line}, ${r.reason}`)
				.join('; ')}.{/if}
	</p>
{/if}
{#if data.labs.posted.length}
	<section aria-label="On the way" class="mt-5 max-w-2xl" data-testid="posted">
		<h2>On the way</h2>
		<ul class="mt-1 divide-y">
			{#each data.labs.posted as p (p.id)}
				<li class="flex flex-wrap items-center gap-x-3 py-1">
					<span class="min-w-0 flex-1"
						><span class="figure">{p.sample}</span>
						<span class="text-sm text-faint"
							>drawn {dateAndTime(p.drawn, zone)}, {p.lab}{isBack(p.back)
								? ', its sheet is back'
								: `; its sheet is back on ${dateOnly(p.back, zone)}`}</span
						></span
					>
					{#if mayWrite && isBack(p.back)}<Button size="sm" disabled={busy} onclick={() => fetchSheet(p.id)}
							>Take its sheet in</Button
						>{/if}
				</li>
			{/each}
		</ul>
	</section>
{/if}
{#each data.labs.answers as answer (answer.id)}
	<section class="mt-6" aria-label="{answer.lab}, {dateOnly(answer.drawn, zone)}" data-testid="answer">
		<h2>{answer.lab}, water of {dateAndTime(answer.drawn, zone)}</h2>
		<ul class="mt-1 divide-y border-y">
			{#if !answer.results.some((r) => r.kits.length)}
				<li class="py-1.5 text-sm text-faint">
					No kit of yours tested this water within three hours of its sample: nothing is proved by it.
				</li>
			{/if}
			{#each answer.results as r (r.parameter)}
				<li class="grid gap-x-4 py-1.5 md:grid-cols-[14rem_minmax(0,1fr)]">
					<span>
						<a class="link font-medium md:min-h-0" href="/s/{data.system.id}/shelf/proof?of={r.parameter}"
							>{title(r.parameter)}</a
						>
						<span class="figure block text-sm"
							>{level(r.parameter, r.value, r.standardUncertainty)} {formatUnit(unitFor(r.parameter))}</span
						>
					</span>
					<span class="text-sm">
						{#each r.kits as kit, i (i)}
							<span class="block"
								>{kit.name}:
								<span class="figure">{level(r.parameter, kit.value, kit.standardUncertainty)}</span>
								<span class="text-faint">{besideInWords(kit.value - r.value, kit.chance)}</span></span
							>
						{/each}
					</span>
				</li>
			{/each}
		</ul>
	</section>
{:else}
	<p class="mt-6 max-w-prose text-faint">No lab has said anything of this water yet.</p>
{/each}
