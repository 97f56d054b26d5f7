import { reading } from '../../src/core/calculations';
import { chart } from '../../src/core/calibration';
import { SHIPPED_METHODS, read } from '../../src/core/methods';
import { calculate } from '../../src/lib/server/calculate';
import { ChartRequest } from '../../src/core/calibration';
import { parse } from '../../src/lib/server/validation';
import type { Row } from './row';

/** Long enough for the machine to settle, ms. */
const EACH = 700;

/** How often a second something runs, after a third of the time for warming up. */
function rate(what: () => unknown): number {
	const until = performance.now() + EACH / 3;
	while (performance.now() < until) what();
	let runs = 0;
	const started = performance.now();
	while (performance.now() - started < EACH) {
		what();
		runs++;
	}
	return (1000 * runs) / (performance.now() - started);
}

/** Readings, readings with questions, and leaflets, a second; beside reading the same request as JSON text. */
export function calculations(): Row[] {
	const method = SHIPPED_METHODS[0]!;
	const request = { method, reading: { left: 0.48 } };
	const expected = { mean: 8.6, standardDeviation: 0.2 };
	const text = JSON.stringify(request);
	const json = rate(() => JSON.parse(text) as unknown);
	const bare = rate(() => read(request));
	const asking = rate(() => reading({ ...request, expected }));
	const checked = rate(() => calculate('reading', JSON.parse(text)));
	const points = Array.from({ length: 100 }, (_, i): [number, number] => [
		i / 100,
		Math.round(16.8 * i) / 100
	]);
	const leaflet = { parameter: 'alkalinity', unit: 'dKH', reads: 'syringe' as const, points };
	if (!parse(ChartRequest, leaflet).ok) throw new Error('the leaflet of the bench is not one');
	const charts = rate(() => chart(leaflet));
	const against = (x: number) =>
		`${(x / json).toPrecision(2)} of reading the request’s JSON (${Math.round(json)})`;
	return [
		{ what: 'readings a second', measured: bare.toFixed(0), against: against(bare) },
		{ what: 'readings with their questions a second', measured: asking.toFixed(0), against: against(asking) },
		{
			what: 'the same from JSON, checked by its schema',
			measured: checked.toFixed(0),
			against: against(checked)
		},
		{
			what: 'leaflets of 100 lines a second',
			measured: charts.toFixed(0),
			against: `${(1000 / charts).toFixed(2)} ms each`
		}
	];
}
