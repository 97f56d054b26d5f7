import { type Restlessness } from '../catalogue';
import { DAY, bad, good, nth, type Outcome } from '../base';
import { el, median } from '../statistics';
import { endsAtNothing, forgottenAfter, usualRestlessness, usuallyNone } from './defaults';
import { fitNoise } from './fit';
import { rateAt, type Dosing, type Noise, type Usual } from './kalman';
import { centreOf, dosingOf, floorOf, methodsOf, nodesOf, type Methods } from './nodes';
import { startOf, type Model, type Node } from './hypotheses';
import { forward, type Track } from './regimes';
import { waterAlone } from './water';
import type { TrendReading, TrendRequest } from './schema';

/** How restless the water is, is judged by this many of the newest readings and events. */
const FIT_MOST = 240;

/** A tank's own usual level and spread are those of so many of its newest tests. */
const USUAL_OF = 30;

/** Each test is good for so many days, while there are few. */
const FEW = 14;

/** Spread of a normal from the median distance to the median. */
const MAD = 1.4826;

/** A parameter by itself: its model, how restless its water is, and all explanations of its tests, the likeliest first. */
export interface Explained {
	request: TrendRequest;
	/** In days. */
	now: number;
	/** Everything up to now, and every reading and event as it came. */
	model: Model;
	/** The newest of it, by which its noise was found, and where it stood before. */
	recent: Pick<Model, 'nodes' | 'start'>;
	methods: Methods;
	noise: Noise;
	usual: Restlessness;
	tracks: Track[];
	/** When it was tested last. */
	tested: number;
}

/** Fits a parameter's model and weighs the explanations of its tests. Problems: none before now, limits the wrong way round. */
export function explain(request: TrendRequest): Outcome<Explained> {
	const flaw = flawOf(request);
	if (flaw) return flaw;
	const { parameter, unit, readings } = request;
	const now = Date.parse(request.now) / DAY;
	const methods = methodsOf(readings);
	const centres = readings.map(centreOf);
	const usual = usualRestlessness(parameter, unit, sizeOf(readings, centres));
	const dosing = dosingOf(request);
	const past = nodesOf(request, methods.names, usual.level).filter((n) => n.at <= now);
	if (!past.some(isTest)) return bad('/readings', 'has no reading before now');
	const model: Model = {
		nodes: past,
		dosing,
		start: startAt(past, centres, usual, dosing, methods.sds),
		moves: { level: usual.jump, drift: usual.atFirst },
		usual: usualOf(request, past, centres, usual),
		floor: floorOf(parameter)
	};
	const newest = past.slice(-FIT_MOST);
	const start = startAt(newest.some(isTest) ? newest : past, centres, usual, dosing, methods.sds);
	const noise = fitNoise({ ...model, nodes: newest, start }, usual);
	const { tracks, tested } = forward(waterAlone(model, noise), startOf(model), past);
	const ranked = [...tracks].sort((a, b) => b.log - a.log);
	return good({
		request,
		now,
		model,
		recent: { nodes: newest, start },
		methods,
		noise,
		usual,
		tracks: ranked,
		tested: nth(tested, 0)
	});
}

export type Test = Extract<Node, { reading: number }>;

export const isTest = (node: Node): node is Test => 'reading' in node;

function flawOf({ parameter, readings, band, now }: TrendRequest): Outcome<never> | undefined {
	if (band && !(band.lower < band.upper))
		return bad('/band', 'must have its lower limit below its upper limit');
	const floor = floorOf(parameter);
	for (const [i, r] of readings.entries())
		if ('below' in r && r.below <= floor)
			return bad(`/readings/${i}/below`, `must be above ${floor}: write the least that the kit can tell`);
		else if ('interval' in r && !(r.interval[0] <= r.interval[1]))
			return bad(`/readings/${i}/interval`, 'must have its smaller end first');
	if (!readings.some((r) => Date.parse(r.at) <= Date.parse(now)))
		return bad('/readings', 'has no reading before now');
	return undefined;
}

/** Of nothing that was measured, nothing. */
const middle = (values: number[]): number => (values.length ? median(values) : 0);
const spread = (values: number[]): number => Math.max(...values) - Math.min(...values);

/** A size for what is unknown: the level, or where that is nothing, what the readings could tell from nothing. */
function sizeOf(readings: TrendReading[], centres: number[]): number {
	const errors = readings.map((r) =>
		'value' in r
			? r.standardUncertainty
			: 'interval' in r
				? r.interval[1] - r.interval[0]
				: Math.abs(centreOf(r))
	);
	return Math.max(Math.abs(middle(centres)), 5 * middle(errors), ...centres.slice(-3).map(Math.abs));
}

/** Where the level stands before the first of some nodes, as far as its first tests say. */
function startAt(
	nodes: Node[],
	centres: number[],
	usual: Restlessness,
	dosing: Dosing[],
	offsetSd: number[]
): Model['start'] {
	const firsts = nodes
		.filter(isTest)
		.slice(0, 3)
		.map((n) => el(centres, n.reading));
	const level = middle(firsts);
	const rate = rateAt(dosing, nodes[0]?.at ?? 0);
	return {
		level,
		levelSd: Math.max(0.5 * Math.abs(level), 30 * usual.level, 3 * spread(firsts)),
		// Whoever doses has set it to what the tank uses, more or less.
		drift: -rate,
		driftSd: Math.max(usual.atFirst, 0.5 * Math.abs(rate)),
		offsetSd
	};
}

/** What this tank, and such tanks, usually have. */
function usualOf(request: TrendRequest, nodes: Node[], centres: number[], usual: Restlessness): Usual {
	const tests = nodes.filter(isTest);
	const newest = tests.slice(-USUAL_OF);
	const gaps = newest.slice(1).map((n, i) => n.at - nth(newest, i).at);
	// Of a tank tested once or twice nothing is known of where it is heading but what such tanks do.
	const days = Math.min(forgottenAfter(request.parameter, middle(gaps)), FEW * tests.length);
	if (usuallyNone(request.parameter, request.phase)) return { level: 0, sd: usual.spread, days };
	const values = newest.map((n) => el(centres, n.reading));
	const level = endsAtNothing(request.parameter) ? 0 : middle(values);
	const own = MAD * middle(values.map((v) => Math.abs(v - level)));
	return { level, sd: Math.max(own, usual.spread), days };
}
