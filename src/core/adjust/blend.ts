import Type from 'typebox';
import { bad, badAll, good, nth, type Outcome, type Problem } from '../base';
import { density, MAX_SALINITY } from '../catalogue';
import { SCHOOLS } from '../targets';
import { DRY_MIX } from './composition';
import { nearestShares } from './shares';

const exact = { additionalProperties: false } as const;
const value = Type.Number({ minimum: 0, maximum: 1e5 });
const litres = Type.Number({ exclusiveMinimum: 0, maximum: 1e7 });
const fraction = Type.Number({ exclusiveMinimum: 0, maximum: 1 });
const Values = Type.Record(Type.String({ minLength: 1, maxLength: 40 }), value);

const Series = Type.Object(
	{
		/** Levels of the tank and of the new water, in own units. */
		now: Values,
		newWater: Values,
		fraction,
		/** What to come near; how many changes it takes is counted for each. */
		target: Type.Optional(Values),
		/** Days from one change to the next, and what each level does a day without it. */
		everyDays: Type.Optional(Type.Number({ exclusiveMinimum: 0, maximum: 365 })),
		netPerDay: Type.Optional(
			Type.Record(Type.String({ maxLength: 40 }), Type.Number({ minimum: -1e4, maximum: 1e4 }))
		)
	},
	exact
);
const Salinity = Type.Object(
	{
		/** PSU */
		now: Type.Number({ minimum: 0, maximum: MAX_SALINITY }),
		wanted: Type.Number({ minimum: 0, maximum: MAX_SALINITY }),
		litres,
		temperatureC: Type.Optional(Type.Number({ minimum: 0, maximum: 40 })),
		/** Of the mix, PSU, for bringing salinity up by a change instead of by dry salt. */
		mix: Type.Optional(Type.Number({ minimum: 0, maximum: MAX_SALINITY })),
		/** g of dissolved salt that a g of dry mix gives: it holds some water. */
		saltPerGram: Type.Optional(fraction)
	},
	exact
);

export const BlendRequest = Type.Object(
	{
		/** Waters that can be mixed, with what is known of each. */
		waters: Type.Optional(
			Type.Array(
				Type.Object(
					{
						id: Type.String({ minLength: 1, maxLength: 80 }),
						values: Values,
						/** How much of it there is. */
						litres: Type.Optional(Type.Number({ minimum: 0, maximum: 1e7 }))
					},
					exact
				),
				{ minItems: 1, maxItems: 6 }
			)
		),
		target: Type.Optional(Values),
		litres: Type.Optional(litres),
		series: Type.Optional(Series),
		salinity: Type.Optional(Salinity)
	},
	exact
);
export type BlendRequest = Type.Static<typeof BlendRequest>;

const Series1 = Type.Object(
	{
		/** Changes until within a tenth of the gap that was there; null: they never get there. */
		changes: Type.Union([Type.Integer(), Type.Null()]),
		/** Level after each of the first changes. */
		after: Type.Array(Type.Number()),
		/** Where it settles just after a change, and just before. */
		steady: Type.Object({ after: Type.Number(), before: Type.Number() }, exact)
	},
	exact
);
export const BlendResult = Type.Object(
	{
		shares: Type.Optional(
			Type.Object(
				{
					of: Type.Array(
						Type.Object({ id: Type.String(), share: Type.Number(), litres: Type.Number() }, exact)
					),
					/** What the blend has, of what all its waters are known for. */
					values: Type.Record(Type.String(), Type.Number()),
					/** Off the target, in the parameter's own unit. */
					off: Type.Record(Type.String(), Type.Number())
				},
				exact
			)
		),
		series: Type.Optional(Type.Record(Type.String(), Series1)),
		salinity: Type.Optional(
			Type.Object(
				{
					/** Dry mix to dissolve in other water first, g. */
					saltG: Type.Number(),
					/** Purified water to add where water is missing, L; or to put in place of tank water. */
					topUpL: Type.Number(),
					swapL: Type.Number(),
					/** Tank water to replace by the mix, L; null where the mix cannot do it. */
					changeL: Type.Union([Type.Number(), Type.Null()]),
					/** Over how many days. */
					days: Type.Integer()
				},
				exact
			)
		)
	},
	exact
);
export type BlendResult = Type.Static<typeof BlendResult>;

const TEMPERATURE = 25;
/** g of sea salt in a kg at S PSU (Millero et al. 2008). */
const ABSOLUTE = 35.16504 / 35;
/** A gap counts as closed when this share of it is left. */
const CLOSED = 0.1;
const MOST_CHANGES = 1000;
const SHOWN = 60;

/** g of salt in a litre. */
const saltIn = (s: number, t = TEMPERATURE): number => (s * ABSOLUTE * density(s, t)) / 1000;

/** PSU of a water that holds so many g of salt in a litre, by halving. */
function salinityOf(gramsPerL: number, t = TEMPERATURE): number {
	let [low, high] = [0, MAX_SALINITY];
	for (let i = 0; i < 60; i++) {
		const s = (low + high) / 2;
		if (saltIn(s, t) < gramsPerL) low = s;
		else high = s;
	}
	return (low + high) / 2;
}

/** How much of a parameter counts as much as how much of another: half of the band that schools share, or a tenth of the target. */
function scaleOf(parameter: string, target: number): number {
	const band = SCHOOLS[0]?.targets[parameter];
	return band ? (band.upper - band.lower) / 2 : Math.max(target / 10, 1e-3);
}

/**
 * Waters as amounts: shares of several that come nearest to a target (least squares, each parameter in its own band; shares from
 * nought to what there is), a series of water changes in closed form, and salt or fresh water for a wanted salinity (mass balance, EOS-80).
 * Problems: nothing asked, pH in it (it does not blend), a parameter that no water is known for, too little water.
 *
 * @example blend({ series: { now: { nitrate: 40 }, newWater: { nitrate: 0 }, fraction: 0.5, target: { nitrate: 10 } } }).value.series.nitrate.after[1] // → 10
 */
export function blend(request: BlendRequest): Outcome<BlendResult> {
	const { waters, target, series, salinity } = request;
	if (!waters && !series && !salinity) return bad('', 'must ask for waters, a series or a salinity');
	const result: BlendResult = {};
	if (waters) {
		const shares = sharesOf(request);
		if (!shares.ok) return shares;
		result.shares = shares.value;
	} else if (target) return bad('/waters', 'must list what can be mixed');
	if (series) {
		const unknown = Object.keys(series.now).filter((p) => series.newWater[p] === undefined);
		const known = Object.keys(series.now).filter((p) => !unknown.includes(p));
		if (!known.length) return bad('/series/newWater', `must say ${unknown.join(', ')} of the new water`);
		result.series = Object.fromEntries(known.map((p) => [p, seriesOf(series, p)]));
	}
	if (salinity) result.salinity = toSalinity(salinity);
	return good(result);
}

function sharesOf({
	waters = [],
	target,
	litres = 1
}: BlendRequest): Outcome<BlendResult['shares'] & object> {
	if (!target || !Object.keys(target).length) return bad('/target', 'must say what is wanted');
	const problems: Problem[] = [];
	if (target['ph'] !== undefined)
		problems.push({ path: '/target/ph', message: 'does not blend: leave it out and measure it afterwards' });
	for (const parameter of Object.keys(target))
		for (const [index, water] of waters.entries())
			if (water.values[parameter] === undefined && parameter !== 'ph')
				problems.push({
					path: `/waters/${index}/values`,
					message: `must say ${parameter}, which the target asks for`
				});
	const most = waters.map((w) => Math.min(1, (w.litres ?? Infinity) / litres));
	if (most.reduce((a, b) => a + b, 0) < 1 - 1e-9)
		problems.push({ path: '/waters', message: `are together less than ${litres} L` });
	if (problems.length) return badAll(problems);
	const wanted = Object.keys(target);
	const inLitre = (parameter: string, value: number) => (parameter === 'salinity' ? saltIn(value) : value);
	const rows = wanted.map((parameter) => {
		const scale =
			parameter === 'salinity'
				? saltIn(1) * scaleOf(parameter, 1)
				: scaleOf(parameter, target[parameter] ?? 0);
		return {
			of: waters.map((w) => inLitre(parameter, w.values[parameter] ?? NaN) / scale),
			wanted: inLitre(parameter, target[parameter] ?? NaN) / scale
		};
	});
	const shares = nearestShares(rows, most);
	const everyones = Object.keys(nth(waters, 0).values).filter(
		(p) => p !== 'ph' && waters.every((w) => w.values[p] !== undefined)
	);
	const values = Object.fromEntries(
		everyones.map((parameter) => {
			const mixed = waters.reduce(
				(sum, w, i) => sum + nth(shares, i) * inLitre(parameter, w.values[parameter] ?? 0),
				0
			);
			return [parameter, parameter === 'salinity' ? salinityOf(mixed) : mixed];
		})
	);
	return good({
		of: waters.map((w, i) => ({ id: w.id, share: nth(shares, i), litres: nth(shares, i) * litres })),
		values,
		off: Object.fromEntries(wanted.map((p) => [p, (values[p] ?? NaN) - (target[p] ?? NaN)]))
	});
}

/** Levels after each of a series of changes, the first made now, the others after the days between; nothing falls below nought. */
function seriesOf(series: NonNullable<BlendRequest['series']>, parameter: string) {
	const { now, newWater, fraction: f, target, everyDays = 0, netPerDay } = series;
	const start = now[parameter] ?? NaN;
	const fresh = newWater[parameter] ?? NaN;
	const drift = everyDays * (netPerDay?.[parameter] ?? 0);
	const changed = (level: number) => level + f * (fresh - level);
	const goal = target?.[parameter];
	const near = goal === undefined ? NaN : Math.max(CLOSED * Math.abs(start - goal), 1e-9);
	const reached = (level: number, n: number) =>
		goal !== undefined && (Math.abs(level - goal) <= near || (n > 0 && (level - goal) * (start - goal) < 0));
	let changes: number | null = reached(start, 0) ? 0 : null;
	const after: number[] = [];
	for (let n = 1, level = start; n <= MOST_CHANGES; n++) {
		level = changed(n === 1 ? level : Math.max(0, level + drift));
		if (n <= SHOWN) after.push(level);
		if (changes === null && reached(level, n)) changes = n;
		if (n >= SHOWN && (changes !== null || goal === undefined)) break;
	}
	// L' = (1 − f)(L + drift) + f·new rests at new + drift (1 − f) / f, unless nothing is left before the next change.
	const rest = fresh + (drift * (1 - f)) / f;
	const before = Math.max(0, rest + drift);
	return { changes, after, steady: { after: changed(before), before } };
}

function toSalinity({
	now,
	wanted,
	litres,
	temperatureC = TEMPERATURE,
	mix,
	saltPerGram = DRY_MIX
}: NonNullable<BlendRequest['salinity']>): BlendResult['salinity'] & object {
	const [has, aims] = [saltIn(now, temperatureC), saltIn(wanted, temperatureC)];
	const missing = aims - has;
	const healthy = SCHOOLS[0]?.targets['salinity']?.healthyPerDay ?? 1;
	const strong = mix === undefined ? undefined : saltIn(mix, temperatureC);
	const share = strong === undefined || strong === has ? Infinity : missing / (strong - has);
	return {
		saltG: missing > 0 ? (missing * litres) / saltPerGram : 0,
		// Fresh water on top of what is there: the salt stays, the water grows.
		topUpL: missing < 0 ? litres * (has / aims - 1) : 0,
		swapL: missing < 0 ? (litres * -missing) / has : 0,
		changeL: share >= 0 && share <= 1 ? share * litres : null,
		days: Math.max(1, Math.ceil(Math.abs(wanted - now) / healthy - 1e-9))
	};
}
