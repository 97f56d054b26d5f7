import { ONE_SIDED_95 } from '../../statistics';
import { nth } from '../../base';
import { chordOf } from './limits';
import { riseMargin, type Level } from './level';
import { named } from './names';
import { omegaBound } from './saturation';
import type { CorrectRequest } from './schema';
import type { Situation } from './situation';
import { Sum, type Row } from './sum';
import type { Weights } from './weights';

/** What holds a level in the programme: how far a day may move it, its far limit and alarms, what lies off where it is wanted, and aragonite. */

/** Leaving an alarm outweighs everything. */
const ALARM = 1000;
/** And the way back from beyond one everything but that. */
const HARM = 20;

/** A pour as far as it moves a level, in bands; `own`: it is poured for that level. */
export interface Poured {
	name: string;
	by: number;
	own: boolean;
}

export const sumOf = (pours: Poured[]): Sum =>
	pours.reduce((sum, { name, by }) => sum.add(by, name), new Sum());

/** What a band's width of use that found nothing weighs: more than any plan can gain by it on all days to come. */
export const priceOfSink = (
	{ alarm: [low], lower }: Level,
	importance: number,
	weights: Weights,
	days: number
): number =>
	days *
		((low > 0 ? ALARM : 0) + (lower > 0 ? importance * (weights.out + weights.unsure + weights.inner) : 0)) +
	importance * 2 * weights.end +
	LEAST_PRICE;
export const LEAST_PRICE = 0.01;

/**
 * Limits that no plan comes to, so that no row is spent on them: over the highest of what it is by itself and of new water nothing carries it that
 * does not rise by itself, since what is poured for it ends at the far limit, unless others bring some beside; under the lowest nothing does but
 * water that has less.
 */
export function staysWithin(level: Level, fresh: number | undefined, mostDrift: number, isBeside: boolean) {
	const highest = Math.max(...level.natural, fresh ?? 0);
	const lowest = Math.min(...level.natural);
	const thinned = fresh !== undefined && fresh < Math.max(...level.natural);
	return {
		below: (limit: number) => !isBeside && mostDrift <= 0 && highest <= limit && level.upper <= limit,
		above: (limit: number) => !thinned && lowest >= limit
	};
}

/** No day moves it more than animals take, pours and change together; what it does by itself is not the plan's. */
export function limitDay(
	level: Level,
	t: number,
	pours: Poured[],
	change: { fraction: number; brought: number },
	drift: number,
	limit: Row,
	margin: ReturnType<typeof riseMargin>,
	next: string,
	at: string
): void {
	if (!pours.length && !change.fraction) return;
	const { scale } = level;
	const nature = (nth(level.natural, t + 1) - nth(level.natural, t)) / scale;
	// A pour may be larger than it is meant by the net volume's error, and the use less.
	const up = new Sum().add(1, next).add(-1, at);
	for (const { name, by } of pours) up.add(margin.perPour * by, name);
	const noise = margin.always / scale;
	limit(up, '<=', Math.max(level.up / scale - noise, nature));
	if (Number.isFinite(level.down))
		limit(new Sum().add(1, next).add(-1, at), '>=', Math.min(-level.down / scale, nature, drift));
	// A water change comes at once, whatever is used on the rest of the day.
	const exchange = new Sum().add(-change.fraction, at);
	limit(exchange, '<=', level.up / scale - change.brought);
	if (Number.isFinite(level.down)) limit(exchange, '>=', -level.down / scale - change.brought);
}

/**
 * Far limit, alarms and how far from where it is wanted. What is poured for a level never carries it over its far limit. What others bring beside
 * is weighed: over the limit of the band it costs as being there does, and no pour carries it to its alarm.
 */
export function limits(
	level: Level,
	p: number,
	t: number,
	since: Poured[],
	beside: string | undefined,
	volumeError: number,
	row: Row,
	limit: Row,
	goal: Sum,
	weights: Weights,
	importance: number,
	last: boolean,
	stays: ReturnType<typeof staysWithin>
): void {
	const { scale } = level;
	const name = named.level(p, t);
	const spread = nth(level.spread, t) / scale;
	const natural = nth(level.natural, t) / scale;
	if (since.length) {
		// The chord of hypot(a, r·d) from d = 0 to two healthy days: never below it.
		const chord = chordOf(spread, volumeError, (2 * level.up) / scale);
		const reach = (pours: Poured[]) => {
			const sum = new Sum().add(1, name);
			for (const { name: pour, by } of pours) sum.add(ONE_SIDED_95 * chord * by, pour);
			return sum;
		};
		const over = (limit: number) => Math.max(limit / scale - ONE_SIDED_95 * spread, natural);
		const poured = since.filter((pour) => pour.own);
		if (poured.length) {
			const own = reach(poured);
			if (beside !== undefined) own.add(-1, beside);
			limit(own, '<=', over(level.upper));
		}
		if (beside !== undefined) limit(reach(since), '<=', over(Math.max(level.alarm[1], level.now)));
	}
	const soft = (kind: string, limit: number, below: boolean, weight: number) => {
		if (!(weight > 0) || (below ? stays.above(limit) : stays.below(limit))) return;
		const d = `${kind}${p}_${t}`;
		goal.add(weight, d);
		if (below) row(new Sum().add(1, d).add(1, name), '>=', limit / scale);
		else row(new Sum().add(1, d).add(-1, name), '>=', -limit / scale);
	};
	const [low, high] = level.alarm;
	if (low > 0) soft('a', Math.min(low, level.now), true, ALARM);
	soft('b', Math.max(high, level.now), false, ALARM);
	if (level.now < low) soft('j', low, true, HARM);
	if (level.now > high) soft('k', high, false, HARM);
	const end = last ? weights.end : 0;
	if (level.lower > 0) soft('d', level.lower, true, importance * (weights.out + end));
	soft('e', level.upper, false, importance * (weights.out + end));
	if (level.wants || beside !== undefined)
		soft('i', level.sure[1], false, importance * (weights.unsure + 0.3 * end));
	if (!level.wants) return;
	if (level.lower > 0) soft('h', level.sure[0], true, importance * (weights.unsure + 0.3 * end));
	if (level.lower > 0) soft('f', level.inner[0], true, importance * weights.inner);
	soft('g', level.inner[1], false, importance * weights.inner);
}

/** Aragonite stays below its bound: calcium and alkalinity together stay below a line that touches the bound's curve from inside. */
export function saturation(request: CorrectRequest, situation: Situation, limit: Row): void {
	const { levels, days } = situation;
	const a = levels.findIndex((l) => l.parameter === 'alkalinity');
	const c = levels.findIndex((l) => l.parameter === 'calcium');
	if (a < 0 || c < 0) return;
	const [alkalinity, calcium] = [nth(levels, a), nth(levels, c)];
	const line = omegaBound(
		request.water,
		(alkalinity.inner[0] + alkalinity.inner[1]) / 2,
		(calcium.inner[0] + calcium.inner[1]) / 2
	);
	if (!line) return;
	for (let t = 1; t <= days; t++) {
		const natural = line.alkalinity * nth(alkalinity.natural, t) + line.calcium * nth(calcium.natural, t);
		limit(
			new Sum()
				.add(line.alkalinity * alkalinity.scale, named.level(a, t))
				.add(line.calcium * calcium.scale, named.level(c, t)),
			'<=',
			Math.max(line.most, natural)
		);
	}
}
