<script lang="ts">
	/** One parameter over time: readings with their 95 % error bars, the band behind them, time in the tank's zone. */
	import type { Chart, ChartConfiguration } from 'chart.js';
	import { onMount } from 'svelte';
	import { formatUnit, type Parameter } from '$core/quantities';
	import type { Band } from '$core/targets';
	import type { Reading } from '$lib/api/readings';
	import { dateAndTime } from '$lib/ui/when';
	import { inWords } from '$lib/ui/wording';

	interface Props {
		parameter: Parameter;
		readings: Reading[];
		band: Band | undefined;
		timeZone: string;
	}
	let { parameter, readings, band, timeZone }: Props = $props();

	let canvas: HTMLCanvasElement;
	let chart: Chart | undefined;
	let ready = $state(false);

	onMount(() => {
		const night = new MutationObserver(() => void draw());
		night.observe(document.documentElement, { attributeFilter: ['class'] });
		return () => {
			night.disconnect();
			chart?.destroy();
		};
	});
	$effect(() => {
		void draw(readings, band);
	});

	/** Newer data may come while the parts load: only the newest drawing counts. */
	let turn = 0;
	async function draw(..._dependencies: unknown[]) {
		const mine = ++turn;
		const wanted = { parameter, readings, band, timeZone };
		const { Chart } = await import('./chart-parts');
		if (mine !== turn || !canvas) return;
		chart?.destroy();
		chart = new Chart(canvas, configuration(wanted) as ChartConfiguration);
		ready = true;
	}

	function configuration({ parameter, readings, band, timeZone }: Props) {
		const ink = (name: string) =>
			getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
		const font = { family: "'JetBrains Mono Variable', monospace", size: 12 };
		const points = readings
			.filter((r) => r.value !== null)
			.map((r) => ({
				x: Date.parse(r.takenAt),
				y: r.value!,
				yMin: r.interval[0] ?? r.value!,
				yMax: r.interval[1] ?? r.value!,
				reading: r
			}));
		const line = (value: number, text: string, yAdjust: number) => ({
			type: 'line',
			yMin: value,
			yMax: value,
			borderColor: ink('moss'),
			borderWidth: 1,
			borderDash: [4, 3],
			label: {
				display: true,
				content: text,
				position: 'start',
				backgroundColor: 'transparent',
				color: ink('moss'),
				font,
				yAdjust
			}
		});
		return {
			type: 'scatterWithErrorBars',
			data: {
				datasets: [
					{
						data: points,
						showLine: true,
						borderColor: ink('liquid'),
						borderWidth: 1.5,
						backgroundColor: ink('plum'),
						pointBackgroundColor: ink('plum'),
						pointBorderColor: ink('plum'),
						pointRadius: 4,
						pointHoverRadius: 6,
						errorBarColor: ink('plum'),
						errorBarWhiskerColor: ink('plum'),
						errorBarLineWidth: 1.2,
						errorBarWhiskerSize: 6
					}
				]
			},
			options: {
				animation: false,
				maintainAspectRatio: false,
				responsive: true,
				scales: {
					x: {
						type: 'time',
						adapters: { date: { zone: timeZone, locale: 'en-GB' } },
						time: { minUnit: 'day', displayFormats: { day: 'd LLL', week: 'd LLL', month: 'LLL yyyy' } },
						ticks: { color: ink('faint-ink'), font, maxRotation: 0, autoSkipPadding: 24 },
						grid: { color: ink('rule') }
					},
					y: {
						title: { display: true, text: formatUnit(parameter.unit), color: ink('faint-ink'), font },
						ticks: { color: ink('faint-ink'), font },
						grid: { color: ink('rule') },
						grace: '8%'
					}
				},
				plugins: {
					tooltip: {
						displayColors: false,
						backgroundColor: ink('ink'),
						titleColor: ink('paper'),
						bodyColor: ink('paper'),
						callbacks: {
							title: (items: { raw: unknown }[]) =>
								items.map((i) => dateAndTime((i.raw as { reading: Reading }).reading.takenAt, timeZone)),
							label: (item: { raw: unknown }) => {
								const { reading } = item.raw as { reading: Reading };
								return [inWords(reading, reading.unit), reading.methodName];
							}
						}
					},
					annotation: {
						annotations: band
							? {
									band: {
										type: 'box',
										yMin: band.lower,
										yMax: band.upper,
										backgroundColor: `${ink('moss-wash')}99`,
										borderWidth: 0,
										drawTime: 'beforeDatasetsDraw'
									},
									upper: line(band.upper, `band to ${band.upper}`, -9),
									lower: line(band.lower, `band from ${band.lower}`, 9)
								}
							: {}
					}
				}
			}
		};
	}
</script>

<div
	class="relative h-full w-full"
	role="img"
	aria-label="{parameter.title} over time, {readings.length} readings; the numbers stand in the table below"
	data-ready={ready}
>
	<canvas bind:this={canvas}></canvas>
</div>
