import { CALCIUM_PER_DKH } from '../quantities';
import { placeInBand } from './placing';
import type { Target } from './schools';

/** What is known of one parameter, in its own unit; rates a day. */
export interface Known {
	parameter: string;
	title: string;
	now: { value: number; standardDeviation: number };
	netPerDay: { value: number; standardDeviation: number };
	usePerDay: { value: number; standardDeviation: number };
	leavesBand: { edge: 'lower' | 'upper'; median: string | null } | null;
	/** The newest tests, newest first: ms and value, or the bound under which it lies. */
	tests: { at: number; value: number | null; below?: number }[];
	/** Whether the newest test does not fit the others. */
	oddLast: boolean;
	target?: Target;
}

export interface Judgement {
	/** What is to be looked at first: 0 harms, 1 acts, 2 watches, 3 is good to know. */
	rank: 0 | 1 | 2 | 3;
	parameter: string;
	tone: 'brick' | 'saffron' | 'moss';
	text: string;
	/** What it is concluded from. */
	why: string;
	/** What would help first: another test, or a look at how it came. */
	helps: 'test' | 'look';
}

const DAY = 86_400_000;
/** Salt water is judged against this salinity, PSU. */
const STANDARD = 35;
/** Below this a low ion is first of all a low salinity, PSU. */
const LOW_SALT = 34;
/** A ratio this far from its own value, and beyond twice its error, points to a test before chemistry. */
const FAR_RATIO = 0.35;
/** Nutrients at nothing for this long are a state, not a reading: days. */
const LONG_ZERO = 21;
/** Below these nitrate and phosphate are nothing to a reef, mg/L. */
const NOTHING: Record<string, number> = { nitrate: 0.5, phosphate: 0.015 };
/** A cycle is over when so many tests in a row see nothing. */
const QUIET_TESTS = 3;
const QUIET: Record<string, number> = { ammonia: 0.15, nitrite: 0.1 };
/** Days ahead that are worth a warning. */
const SOON = 10;

const round = (x: number, digits = 2): string => String(Number(x.toPrecision(digits)));

/** Everything that deserves attention, the worst first, each with what it rests on. `now` in ms. */
export function judge(all: Known[], now: number): Judgement[] {
	const of = (parameter: string) => all.find((k) => k.parameter === parameter);
	const found = [
		...all.flatMap((k) => standing(k, now)),
		...onEdge(all),
		...salinityFirst(all, of('salinity')),
		...ratio(of('alkalinity'), of('calcium')),
		...all.flatMap(swing),
		...all.flatMap((k) => zero(k, now)),
		...cycle(of('ammonia'), of('nitrite'), of('nitrate'))
	];
	return found.sort((a, b) => a.rank - b.rank);
}

function standing(k: Known, now: number): Judgement[] {
	const { target, title, parameter } = k;
	if (k.oddLast)
		return [
			{
				rank: 1,
				parameter,
				tone: 'saffron',
				text: `${title}: the last test does not fit. Repeat it before acting.`,
				why: 'It lies further from all the others than its error explains; one slip is likelier than a jump.',
				helps: 'test'
			}
		];
	if (!target) return [];
	const { value, standardDeviation } = k.now;
	const place = placeInBand(value, Math.max(standardDeviation, 1e-9), target);
	const sure = `${Math.round(100 * (1 - place.inside))} % sure, from ${k.tests.length} tests`;
	if (place.state === 'below' || place.state === 'above') {
		const alarm = place.state === 'below' ? value < target.alarm[0] : value > target.alarm[1];
		return [
			{
				rank: alarm ? 0 : 1,
				parameter,
				tone: 'brick',
				text: `${title} is ${place.state} its band${alarm ? ', where animals are harmed' : ''}.`,
				why: `${sure}. Move it by no more than ${round(target.healthyPerDay)} a day.`,
				helps: 'look'
			}
		];
	}
	const { leavesBand: leaves } = k;
	if (leaves?.median) {
		const days = (Date.parse(leaves.median) - now) / DAY;
		if (days <= SOON && place.state === 'inside')
			return [
				{
					rank: 2,
					parameter,
					tone: 'saffron',
					text: `${title} ${leaves.edge === 'lower' ? 'falls' : 'rises'} ${round(Math.abs(k.netPerDay.value))} a day and leaves its band in about ${Math.max(1, Math.round(days))} ${days < 1.5 ? 'day' : 'days'}.`,
					why: `As likely as not by then, if nothing is changed.`,
					helps: 'look'
				}
			];
	}
	return [];
}

/** Levels of which it cannot be told whether they are in band: one message, since one evening settles them. */
function onEdge(all: Known[]): Judgement[] {
	const unsure = all.filter(
		(k) =>
			k.target &&
			!k.oddLast &&
			placeInBand(k.now.value, Math.max(k.now.standardDeviation, 1e-9), k.target).state === 'unsure'
	);
	const [first] = unsure;
	if (!first) return [];
	const names = unsure.map((k, i) => (i ? k.title.toLowerCase() : k.title));
	const list = names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names[0];
	return [
		{
			rank: 2,
			parameter: first.parameter,
			tone: 'saffron',
			text: `${list} ${names.length > 1 ? 'are' : 'is'} on the edge of the band, or not known well enough to tell.`,
			why: 'A test would tell.',
			helps: 'test'
		}
	];
}

/** A low ion in thin water is a matter of salt. */
function salinityFirst(all: Known[], salinity: Known | undefined): Judgement[] {
	if (!salinity || salinity.now.value >= LOW_SALT) return [];
	const factor = STANDARD / salinity.now.value;
	return ['calcium', 'magnesium', 'potassium', 'alkalinity'].flatMap((parameter): Judgement[] => {
		const k = all.find((x) => x.parameter === parameter);
		if (!k?.target || k.now.value >= k.target.lower || k.now.value * factor < k.target.lower) return [];
		return [
			{
				rank: 1,
				parameter,
				tone: 'saffron',
				text: `${k.title} is low because the water is thin: ${round(k.now.value, 3)} would be ${round(k.now.value * factor, 3)} at ${STANDARD} PSU. Correct salinity first.`,
				why: `Salinity is ${round(salinity.now.value, 3)} PSU; ions go up with it in step.`,
				helps: 'look'
			}
		];
	});
}

function ratio(alkalinity: Known | undefined, calcium: Known | undefined): Judgement[] {
	if (!alkalinity || !calcium) return [];
	const [a, c] = [alkalinity.usePerDay, calcium.usePerDay];
	const expected = a.value * CALCIUM_PER_DKH;
	const error = Math.hypot(c.standardDeviation, a.standardDeviation * CALCIUM_PER_DKH);
	if (Math.abs(expected) < 2 * a.standardDeviation * CALCIUM_PER_DKH) return [];
	if (Math.abs(c.value - expected) < Math.max(2 * error, FAR_RATIO * Math.abs(expected))) return [];
	return [
		{
			rank: 2,
			parameter: 'calcium',
			tone: 'saffron',
			text: `Calcium and alkalinity are not used in step: ${round(c.value)} mg/L a day beside ${round(a.value)} dKH, where ${round(expected)} is expected.`,
			why: 'A ratio far off points to a bad test or a wrong dosing entry before it points to chemistry.',
			helps: 'test'
		}
	];
}

function swing(k: Known): Judgement[] {
	const [last, before] = k.tests;
	if (!k.target || last?.value == null || before?.value == null || k.oddLast) return [];
	const days = (last.at - before.at) / DAY;
	const change = Math.abs(last.value - before.value);
	if (days > 2 || days <= 0 || change <= k.target.healthyPerDay * Math.max(1, days)) return [];
	if (change < 2 * k.now.standardDeviation) return [];
	return [
		{
			rank: 1,
			parameter: k.parameter,
			tone: 'brick',
			text: `${k.title} moved by ${round(change)} within ${days < 1.5 ? 'a day' : 'two days'}; ${round(k.target.healthyPerDay)} a day is healthy.`,
			why: 'Swings harm more than levels. Repeat the test, then look for what was dosed.',
			helps: 'test'
		}
	];
}

function zero(k: Known, now: number): Judgement[] {
	const nothing = NOTHING[k.parameter];
	if (nothing === undefined || !k.target || k.target.lower <= 0) return [];
	const low = k.tests.findIndex(
		(t) => !(t.below !== undefined ? t.below <= 2 * nothing : (t.value ?? 1) < nothing)
	);
	const quiet = low < 0 ? k.tests : k.tests.slice(0, low);
	const since = quiet.at(-1);
	if (quiet.length < 2 || !since || now - since.at < LONG_ZERO * DAY) return [];
	return [
		{
			rank: 2,
			parameter: k.parameter,
			tone: 'saffron',
			text: `${k.title} has been at nothing for ${Math.round((now - since.at) / DAY)} days.`,
			why: `${quiet.length} tests in a row saw none; a long zero invites pests and pales corals.`,
			helps: 'look'
		}
	];
}

function cycle(
	ammonia: Known | undefined,
	nitrite: Known | undefined,
	nitrate: Known | undefined
): Judgement[] {
	const quiet = (k: Known | undefined) =>
		!!k &&
		k.tests.length >= QUIET_TESTS &&
		k.tests.slice(0, QUIET_TESTS).every((t) => (t.below ?? t.value ?? Infinity) <= QUIET[k.parameter]!);
	if (!ammonia || !quiet(ammonia) || (nitrite && !quiet(nitrite))) return [];
	const upper = nitrate?.target?.upper;
	const high = nitrate && upper !== undefined && nitrate.now.value > upper;
	if (!high) return [];
	const fraction = 1 - (0.8 * upper) / nitrate.now.value;
	return [
		{
			rank: 3,
			parameter: 'nitrate',
			tone: 'moss',
			text: `The cycle is over. A water change of ${Math.round(100 * fraction)} % brings nitrate home, then fish.`,
			why: `${nitrite ? 'Ammonia and nitrite' : 'Ammonia'} stayed below detection ${QUIET_TESTS} tests in a row.`,
			helps: 'look'
		}
	];
}
