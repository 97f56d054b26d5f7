<script lang="ts">
	/**
	 * One parameter over time: readings with their 95 % error bars, each kit with its own mark; bounds as what they are; the
	 * band; the estimate as a ribbon that goes on as a forecast; what was done as marks. Drag to look at a span.
	 */
	import type { Chart } from 'chart.js';
	import { COVERAGE_95 } from '$core/statistics';
	import { formatUnit } from '$core/quantities';
	import { type Parameter, hasTrait } from '$core/catalogue';
	import type { Band } from '$core/targets';
	import { outermost, downsample } from '$core/series';
	import type { TankEvent } from '$lib/api/events';
	import type { Reading } from '$lib/api/readings';
	import type { Point, TrendInShort, WayPoint } from '$lib/api/trends';
	import { dateAndTime } from '$lib/ui/when';
	import { changeInOwn } from '$lib/ui/trends/event-words';
	import { figures } from '$lib/ui/habits';
	import { inWords } from '$lib/ui/wording';
	import { drawn } from './drawn';
	import { eventMarks, type EventMark } from './event-marks';
	import { bandBox, SHAPES, chartFont, ink, ribbon, timeAxis } from './ink';

	interface Props {
		parameter: Parameter;
		/** Readings that count, oldest first. */
		points: Point[];
		/** Names of the methods that points say by their place. */
		methods: { name: string }[];
		/** Readings that were taken out, drawn hollow. */
		voided?: Reading[];
		band: Band | undefined;
		trend: TrendInShort | undefined;
		way: WayPoint[];
		events: TankEvent[];
		timeZone: string;
		/** The span that is looked at changed, ms. */
		onspan?: (span: { from: number; to: number } | undefined) => void;
	}
	let {
		parameter,
		points,
		methods,
		voided = [],
		band,
		trend,
		way,
		events,
		timeZone,
		onspan
	}: Props = $props();

	let canvas: HTMLCanvasElement | undefined = $state();
	let chart: Chart | undefined;
	let ready = $state(false);

	/** Show all of it. */
	export function reset() {
		(chart as { resetZoom?: () => void } | undefined)?.resetZoom?.();
		look();
	}
	/** The picture as it is, as a PNG address. */
	export const picture = (): string | undefined => chart?.toBase64Image();

	/** Width of the words of a mark, px. */
	const WORD = 46;
	/** A mark in the picture and what it says when it is pointed at. */
	interface Mark {
		x: number;
		y: number;
		yMin: number;
		yMax: number;
		qualifier: string;
		shape: number;
		said: string[];
	}
	function markOf(p: Omit<Point, 'method' | 'own'>, shape: number, name: string, unit: string): Mark {
		const y = p.value ?? p.high ?? p.low ?? 0;
		const { qualifier, value, standardUncertainty, low, high } = p;
		return {
			x: p.at,
			y,
			yMin: qualifier === '<' ? 0 : (low ?? y),
			yMax: high ?? y,
			qualifier,
			shape,
			get said() {
				return [inWords({ qualifier, value, standardUncertainty, interval: [low, high] }, unit), name];
			}
		};
	}
	const taken = $derived(
		points.filter((p) => p.own).map((p) => markOf(p, p.method, methods[p.method]!.name, parameter.unit))
	);
	/** What says nothing of the water is drawn hollow: what was voided, and what was read by a chart that is not the keeper's. */
	const takenOut = $derived([
		...points
			.filter((p) => !p.own)
			.map((p) =>
				markOf(p, p.method, `${methods[p.method]!.name}, by a chart that is not yours yet`, parameter.unit)
			),
		...voided.map((r) => {
			const [low, high] = r.interval;
			return markOf({ ...r, at: Date.parse(r.takenAt), low, high }, 0, r.methodName, r.unit);
		})
	]);
	const shapeOf = ({ qualifier, shape }: Mark) =>
		qualifier === '=' ? SHAPES[shape % SHAPES.length]! : qualifier === 'between' ? false : 'dash';
	/** So many marks on a screen are drawn small and thin. */
	const CROWD = 600;

	function marks(): EventMark[] {
		const changes = events.filter((e) => e.event.kind === 'water-change').length;
		/** Words beside words that nobody can read say less than none. */
		const roomForWords = changes * WORD <= (canvas?.clientWidth ?? Infinity);
		return events.flatMap(({ at, event }): EventMark[] => {
			if (event.kind === 'water-change')
				return [
					{
						at: Date.parse(at),
						words: roomForWords ? `${figures(100 * event.fraction, 2)} %` : undefined,
						colour: ink('glass'),
						width: 1,
						dash: [2, 4],
						atFoot: false
					}
				];
			const words =
				event.kind === 'dosing' && event.parameter === parameter.id
					? `${changeInOwn(parameter.id, event.perDay)} a day`
					: event.kind === 'dose' && event.parameter === parameter.id
						? `${event.change > 0 ? '+' : ''}${changeInOwn(parameter.id, event.change)}`
						: undefined;
			return words === undefined
				? []
				: [{ at: Date.parse(at), words, colour: ink('saffron'), width: 1.5, dash: [], atFoot: true }];
		});
	}

	/** What is drawn of a span of time, ms; of the whole where none is said. */
	function datasets(from = -Infinity, to = Infinity) {
		const within = <T,>(rows: T[], at: (row: T) => number) => {
			const first = rows.findIndex((row) => at(row) >= from);
			const after = rows.findIndex((row) => at(row) > to);
			return rows.slice(
				Math.max(0, first < 0 ? rows.length : first - 1),
				after < 0 ? rows.length : after + 1
			);
		};
		const ends = (p: { at: number; mean: number; sd: number }) => ({
			x: p.at,
			low: Math.max(hasTrait(parameter.id, 'signed') ? -Infinity : 0, p.mean - COVERAGE_95 * p.sd),
			high: p.mean + COVERAGE_95 * p.sd
		});
		const middle = (line: { at: number; mean: number }[], dashed: boolean) => ({
			type: 'line',
			data: line.map((p) => ({ x: p.at, y: p.mean })),
			borderColor: ink('plum'),
			borderWidth: 1.5,
			borderDash: dashed ? [3, 4] : [],
			pointRadius: 0,
			pointHitRadius: 0,
			order: 3
		});
		/** Marks of one shape are a set of their own: then all of them have the same options, which are found once. */
		const marked = (of: Mark[], hollow: boolean) => {
			const seen = within(of, (m) => m.x);
			const crowd = seen.length > CROWD;
			const colour = ink(hollow ? 'faint-ink' : 'plum');
			const shown = outermost(
				seen,
				(m) => m.x,
				(m) => (m.qualifier === '=' ? m.y : undefined)
			);
			return [...new Set(shown.map(shapeOf))].map((pointStyle) => ({
				data: shown.filter((m) => shapeOf(m) === pointStyle),
				showLine: false,
				pointStyle,
				backgroundColor: hollow ? 'transparent' : colour,
				borderColor: colour,
				pointBackgroundColor: hollow ? 'transparent' : colour,
				pointBorderColor: colour,
				pointBorderWidth: 1.5,
				pointRadius: crowd ? 1.5 : 4,
				pointHoverRadius: 6,
				errorBarColor: colour,
				errorBarWhiskerColor: colour,
				errorBarLineWidth: crowd ? 0.3 : 1.2,
				errorBarWhiskerSize: crowd ? 0 : 6,
				order: 1
			}));
		};
		const line = downsample(within(way, (p) => p.at));
		const ahead = (trend?.forecast ?? []).map((p) => ({ ...p, at: Date.parse(p.at) }));
		return [
			...marked(taken, false),
			...marked(takenOut, true),
			middle(line, false),
			middle(ahead, true),
			...ribbon(line.map(ends), `${ink('liquid')}55`, 5),
			...ribbon(ahead.map(ends), `${ink('liquid')}2e`, 5)
		];
	}

	/** Draws what a span has, as finely as there is room for it. */
	function look(span?: { from: number; to: number }) {
		if (!chart) return;
		chart.data.datasets = datasets(span?.from, span?.to) as unknown as Chart['data']['datasets'];
		chart.update('none');
		onspan?.(span);
	}

	/** A share of what is shown that stays free above and below. */
	const GRACE = 0.08;
	/**
	 * Levels that are shown: readings with their errors, the estimate, the band and where the forecast most likely goes. How wide the
	 * forecast fans out does not decide it: it would squeeze what is known into a strip.
	 */
	function levels(): { min: number; max: number } | { grace: string } {
		const ends = (taken.length ? taken : takenOut)
			.flatMap((m) => [m.yMin, m.yMax, m.y])
			.filter((y) => Number.isFinite(y));
		const likely = (trend?.forecast ?? []).map((p) => p.mean);
		const all = [...ends, ...way.map((p) => p.mean), ...likely, ...(band ? [band.lower, band.upper] : [])];
		if (!all.length) return { grace: '6%' };
		const low = all.reduce((a, b) => Math.min(a, b), Infinity);
		const high = all.reduce((a, b) => Math.max(a, b), -Infinity);
		const room = GRACE * (high - low || Math.abs(high) || 1);
		return { min: hasTrait(parameter.id, 'signed') ? low - room : Math.max(0, low - room), max: high + room };
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
				// Over the forecast, where no test and no dosing stands.
				position: 'end',
				backgroundColor: 'transparent',
				color: ink('moss'),
				font: chartFont,
				yAdjust
			}
		});
		return {
			type: 'scatterWithErrorBars',
			data: { datasets: datasets() },
			plugins: [eventMarks(marks())],
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
						...levels()
					}
				},
				plugins: {
					tooltip: {
						displayColors: false,
						backgroundColor: ink('ink'),
						titleColor: ink('paper'),
						bodyColor: ink('paper'),
						filter: (item: { raw: unknown }) => 'said' in (item.raw as object),
						callbacks: {
							title: (items: { raw: unknown }[]) =>
								items.map((i) => dateAndTime(new Date((i.raw as Mark).x).toISOString(), timeZone)),
							label: (item: { raw: unknown }) => (item.raw as Mark).said
						}
					},
					zoom: {
						zoom: {
							mode: 'x',
							drag: { enabled: true, backgroundColor: `${ink('plum')}33`, borderColor: ink('plum') },
							pinch: { enabled: true },
							onZoomComplete: ({ chart: of }: { chart: Chart }) =>
								look({ from: of.scales['x']!.min, to: of.scales['x']!.max })
						}
					},
					annotation: {
						annotations: band
							? {
									band: bandBox(band),
									upper: line(band.upper, `band to ${figures(band.upper, 5)}`, -9),
									lower: line(band.lower, `band from ${figures(band.lower, 5)}`, 9)
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
	aria-label="{parameter.title} over time, {points.length} readings; the numbers stand in the table below"
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
