<script lang="ts">
	/** One page for the wall: last readings, bands, what is due. Black on white, whatever the theme. */
	import Button from 'flowbite-svelte/Button.svelte';
	import { formatUnit } from '$core/quantities';
	import { PARAMETERS, parameterOf } from '$core/catalogue';
	import AsOf from '$lib/ui/shell/AsOf.svelte';
	import { figures, unitFor } from '$lib/ui/habits';
	import { volumeFor, volumeUnit } from '$lib/ui/mine';
	import { dateOnly, dayInWords, dayShort } from '$lib/ui/when';
	import { alwaysInWords } from '$lib/ui/words/adjust';
	import { judgementInWords, together } from '$lib/ui/words/judgements';
	import { headingInWords, shownValue } from '$lib/ui/wording';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();

	/** What fits between the margins of an A4 sheet, mm, less what a printer may round away. */
	const [WIDE, HIGH] = [190, 278];
	/** How much smaller the sheet has to be to fit on one page: as it is looked at on paper, whatever the screen. */
	function fitted(sheet: HTMLElement) {
		const fit = () => {
			const trial = document.createElement('div');
			trial.style.cssText =
				'position:absolute;visibility:hidden;inset:0 auto auto 0;height:0;overflow:hidden';
			const copy = sheet.cloneNode(true) as HTMLElement;
			trial.append(copy);
			document.body.append(trial);
			let share = 1;
			for (; share > 0.5; share -= 0.02) {
				copy.style.cssText = `width:${WIDE / share}mm;max-width:none;padding:0;border:0`;
				const millimetre = copy.getBoundingClientRect().width / (WIDE / share);
				if ((copy.offsetHeight * share) / millimetre <= HIGH) break;
			}
			trial.remove();
			sheet.style.setProperty('--fit', share.toFixed(2));
		};
		fit();
		addEventListener('beforeprint', fit);
		return () => removeEventListener('beforeprint', fit);
	}
	const zone = $derived(data.system.timeZone);
	const rows = $derived(PARAMETERS.filter((p) => data.latest[p.id]?.length));
</script>

<Title of="One page" />
<div class="no-print mb-3 flex flex-wrap items-center gap-4">
	<h1 class="sr-only">One page to print</h1>
	<Button onclick={() => print()}>Print it</Button>
	<a class="link" href="/s/{data.system.id}/readings">Back to the readings</a>
	<span class="text-sm text-faint">One page, A4.</span>
</div>
<AsOf asOf={data.asOf} timeZone={zone} />
<article class="sheet" {@attach fitted}>
	<header>
		<strong>{data.system.name}</strong>
		<span>{figures(volumeFor(data.system.netVolumeL))} {volumeUnit()} · {dateOnly(data.now, zone)}</span>
	</header>
	<table>
		<caption class="sr-only">The last readings of each parameter, newest first</caption>
		<thead>
			<tr
				><th scope="col" class="p">Parameter</th><th scope="col" class="b">Band</th><th
					scope="colgroup"
					colspan="6">Last tests, newest first</th
				><th scope="col" class="h">Where it heads</th></tr
			>
		</thead>
		<tbody>
			{#each rows as p (p.id)}
				{@const band = data.bands[p.id]}
				{@const trend = data.headings[p.id]}
				<tr>
					<th scope="row">{p.title}<span>{formatUnit(unitFor(p.id))}</span></th>
					<td>{band ? `${figures(band.lower, 5)} to ${figures(band.upper, 5)}` : ''}</td>
					{#each Array.from({ length: 6 }, (_, i) => data.latest[p.id]?.[i]) as r, i (i)}
						<td class="value">
							{#if r}{@const v = shownValue(r)}<b>{v.value}</b><span>{v.error}</span><span
									>{dayShort(r.takenAt, zone)}{r.ownChart ? '' : ' ○'}</span
								>{/if}
						</td>
					{/each}
					<td>{trend ? headingInWords(p.id, trend, data.now, zone) : ''}</td>
				</tr>
			{/each}
		</tbody>
	</table>
	<div class="columns">
		<section>
			<h2>Next tests</h2>
			<ul>
				{#each data.due.slice(0, 9) as d (d.parameter)}
					<li>☐ {parameterOf(d.parameter)?.title}, {d.now ? 'now' : dayInWords(d.at, data.now, zone)}</li>
				{/each}
			</ul>
		</section>
		<section>
			<h2>Look at</h2>
			<ul>
				{#each together(data.judgements).slice(0, 5) as j (`${j.kind} ${j.parameter}`)}<li>
						{judgementInWords(j, data.now, zone).text}
					</li>{:else}<li>Nothing out of the ordinary.</li>{/each}
			</ul>
		</section>
	</div>
	{#if data.pours?.steps.length}
		<section data-testid="plan">
			<h2>To pour</h2>
			<ul class="pours">
				{#each data.pours.steps as step (step.place)}
					<li>
						☐ {dayShort(`${step.date}T12:00:00Z`, zone)}: {step.what}{step.manner ? `, ${step.manner}` : ''}
					</li>
				{/each}
			</ul>
			<p>{alwaysInWords()}</p>
		</section>
	{/if}
	<footer>
		Tevrik advises; the label, the vet and the lab rule. Repeat an odd test before acting on it.
	</footer>
</article>

<style>
	.pours {
		columns: 2;
	}
	.sheet {
		width: 190mm;
		max-width: 100%;
		overflow-x: auto;
		background: #fff;
		color: #000;
		padding: 6mm;
		font-size: 10.5pt;
		border: 1px solid var(--rule);
	}
	header {
		display: flex;
		justify-content: space-between;
		align-items: baseline;
		font-size: 11pt;
		border-bottom: 2px solid #000;
		padding-bottom: 2mm;
	}
	header strong {
		font-size: 18pt;
	}
	table {
		width: 100%;
		border-collapse: collapse;
		table-layout: fixed;
		margin-top: 3mm;
	}
	th,
	td {
		text-align: start;
		vertical-align: top;
		border-bottom: 1px solid #999;
		padding: 1.2mm 1.5mm 1.2mm 0;
		font-weight: 400;
	}
	.p {
		width: 26mm;
	}
	.b {
		width: 24mm;
	}
	.h {
		width: 34mm;
	}
	tbody th {
		font-weight: 650;
	}
	th span,
	.value span {
		display: block;
		font-size: 8pt;
		color: #333;
		font-weight: 400;
	}
	.value {
		font-family: var(--font-mono);
		font-variant-numeric: tabular-nums;
		letter-spacing: -0.03em;
	}
	.columns {
		display: grid;
		grid-template-columns: 1fr 1.4fr;
		gap: 8mm;
		margin-top: 5mm;
	}
	h2 {
		font-size: 11pt;
	}
	li {
		padding-block: 0.6mm;
	}
	footer {
		margin-top: 4mm;
		font-size: 8pt;
		color: #333;
	}
	@page {
		size: A4;
		margin: 8mm;
	}
	@media print {
		.sheet {
			zoom: var(--fit, 1);
			width: calc(190mm / var(--fit, 1));
			max-width: none;
			border: 0;
			padding: 0;
			overflow: visible;
		}
	}
</style>
