<script lang="ts">
	/**
	 * One parameter over time: readings with their 95 % error bars, each kit with its own mark; bounds as what they are; the
	 * band; the estimate as a ribbon that goes on as a forecast; what was done as marks. Drag to look at a span.
	 */
	import type { Chart } from 'chart.js';
	import { COVERAGE_95 } from '$core/methods';
	import { formatUnit, type Parameter } from '$core/quantities';
	import type { Band } from '$core/targets';
	import type { TrendResult } from '$core/trend';
	import type { TankEvent } from '$lib/api/events';
	import type { Reading } from '$lib/api/readings';
	import { dateAndTime } from '$lib/ui/when';
	import { inWords } from '$lib/ui/wording';
	import { drawn } from './drawn';
	import { chartFont, ink, ribbon, thinned, timeAxis } from './ink';

	interface Props {
		parameter: Parameter;
		readings: Reading[];
		/** Readings that were taken out, drawn hollow. */
		voided?: Reading[];
		band: Band | undefined;
		trend: TrendResult | undefined;
		events: TankEvent[];
		timeZone: string;
		/** The span that is looked at changed, ms. */
		onspan?: (span: { from: number; to: number } | undefined) => void;
	}
	let { parameter, readings, voided = [], band, trend, events, timeZone, onspan }: Props = $props();

	let canvas: HTMLCanvasElement | undefined = $state();
	let chart: Chart | undefined;
	let ready = $state(false);

	/** The whole again. */
	export function reset() {
		(chart as { resetZoom?: () => void } | undefined)?.resetZoom?.();
		onspan?.(undefined);
	}
	/** The picture as it is, as a PNG address. */
	export const picture = (): string | undefined => chart?.toBase64Image();

	/** Width of the words of a mark, px. */
	const WORD = 46;
	const SHAPES = ['circle', 'rect', 'triangle', 'rectRot', 'star', 'crossRot'] as const;
	/** Which mark each kit has, in the order in which they came. */
	const shapes = $derived(
		new Map([...new Set(readings.map((r) => r.methodId))].map((id, i) => [id, SHAPES[i % SHAPES.length]!]))
	);

	const plain = (r: Reading) => {
		const [low, high] = r.interval;
		const y = r.value ?? high ?? low ?? 0;
		return {
			x: Date.parse(r.takenAt),
			y,
			yMin: r.qualifier === '<' ? 0 : (low ?? y),
			yMax: high ?? y,
			reading: r
		};
	};

	function marks(): Record<string, object> {
		const at = (e: TankEvent) => ({ xMin: Date.parse(e.at), xMax: Date.parse(e.at) });
		const found: Record<string, object> = {};
		const changes = events.filter((e) => e.event.kind === 'water-change').length;
		/** Words beside words that nobody can read say less than none. */
		const roomForWords = changes * WORD <= (canvas?.clientWidth ?? Infinity);
		for (const e of events) {
			const { event } = e;
			const words =
				event.kind === 'water-change'
					? `${Math.round(100 * event.fraction)} %`
					: event.kind === 'dosing' && event.parameter === parameter.id
						? `${event.perDay} a day`
						: event.kind === 'dose' && event.parameter === parameter.id
							? `${event.change > 0 ? '+' : ''}${event.change}`
							: undefined;
			if (words === undefined) continue;
			const change = event.kind === 'water-change';
			found[e.id] = {
				type: 'line',
				...at(e),
				borderColor: ink(change ? 'glass' : 'saffron'),
				borderWidth: change ? 1 : 1.5,
				borderDash: change ? [2, 4] : [],
				label: {
					display: !change || roomForWords,
					content: words,
					position: change ? 'end' : 'start',
					backgroundColor: ink('paper'),
					color: ink(change ? 'faint-ink' : 'saffron'),
					font: { ...chartFont, size: 10 },
					padding: 2
				}
			};
		}
		return found;
	}

	function configuration() {
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
				font: chartFont,
				yAdjust
			}
		});
		const ends = (p: { at: string; mean: number; sd: number }) => ({
			x: Date.parse(p.at),
			low: Math.max(parameter.id === 'temperature' ? -Infinity : 0, p.mean - COVERAGE_95 * p.sd),
			high: p.mean + COVERAGE_95 * p.sd
		});
		const middle = (points: { at: string; mean: number }[], dashed: boolean) => ({
			type: 'line',
			data: points.map((p) => ({ x: Date.parse(p.at), y: p.mean })),
			borderColor: ink('plum'),
			borderWidth: 1.5,
			borderDash: dashed ? [3, 4] : [],
			pointRadius: 0,
			pointHitRadius: 0,
			order: 3
		});
		const points = (of: Reading[], hollow: boolean) => ({
			data: of.map(plain),
			showLine: false,
			pointStyle: (c: { raw?: unknown }) => {
				const r = (c.raw as { reading?: Reading } | undefined)?.reading;
				return r?.qualifier === '=' ? shapes.get(r.methodId) : r?.qualifier === 'between' ? false : 'dash';
			},
			backgroundColor: hollow ? 'transparent' : ink('plum'),
			borderColor: ink(hollow ? 'faint-ink' : 'plum'),
			pointBackgroundColor: hollow ? 'transparent' : ink('plum'),
			pointBorderColor: ink(hollow ? 'faint-ink' : 'plum'),
			pointBorderWidth: 1.5,
			pointRadius: readings.length > 600 ? 1.5 : 4,
			pointHoverRadius: 6,
			errorBarColor: ink(hollow ? 'faint-ink' : 'plum'),
			errorBarWhiskerColor: ink(hollow ? 'faint-ink' : 'plum'),
			errorBarLineWidth: readings.length > 600 ? 0.3 : 1.2,
			errorBarWhiskerSize: readings.length > 600 ? 0 : 6,
			order: 1
		});
		return {
			type: 'scatterWithErrorBars',
			data: {
				datasets: [
					points(readings, false),
					...(voided.length ? [points(voided, true)] : []),
					...(trend
						? [
								middle(thinned(trend.path), false),
								middle(trend.forecast, true),
								...ribbon(thinned(trend.path).map(ends), `${ink('liquid')}55`, 5),
								...ribbon(trend.forecast.map(ends), `${ink('liquid')}2e`, 5)
							]
						: [])
				]
			},
			options: {
				animation: false,
				maintainAspectRatio: false,
				responsive: true,
				scales: {
					x: timeAxis(timeZone),
					y: {
						title: {
							display: true,
							text: formatUnit(parameter.unit),
							color: ink('faint-ink'),
							font: chartFont
						},
						ticks: { color: ink('faint-ink'), font: chartFont },
						grid: { color: ink('rule') },
						grace: '6%'
					}
				},
				plugins: {
					tooltip: {
						displayColors: false,
						backgroundColor: ink('ink'),
						titleColor: ink('paper'),
						bodyColor: ink('paper'),
						filter: (item: { raw: unknown }) => 'reading' in (item.raw as object),
						callbacks: {
							title: (items: { raw: unknown }[]) =>
								items.map((i) => dateAndTime((i.raw as { reading: Reading }).reading.takenAt, timeZone)),
							label: (item: { raw: unknown }) => {
								const { reading } = item.raw as { reading: Reading };
								return [inWords(reading, reading.unit), reading.methodName];
							}
						}
					},
					zoom: {
						zoom: {
							mode: 'x',
							drag: { enabled: true, backgroundColor: `${ink('plum')}33`, borderColor: ink('plum') },
							pinch: { enabled: true },
							onZoomComplete: ({ chart: of }: { chart: Chart }) =>
								onspan?.({ from: of.scales['x']!.min, to: of.scales['x']!.max })
						}
					},
					annotation: {
						annotations: {
							...(band
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
								: {}),
							...marks()
						}
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
	<canvas
		bind:this={canvas}
		{@attach drawn(configuration, (now) => {
			chart = now;
			ready = true;
		})}
	></canvas>
</div>
