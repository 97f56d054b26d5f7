import { nth } from '../../nth';
import { omegaBound } from './saturation';
import { NOT_KNOWN, type CorrectRequest } from './schema';
import { costOf, fractionOn, freshOf, NO_CHANGE, type Changing } from './changing';
import { chordOf, IONS, Z95 } from './limits';
import { isKept, riseMargin, type Level, type Pourable, type Situation } from './situation';
import { importanceOf, MOVED, WEIGHTS, type Weights } from './weights';

/** Leaving an alarm outweighs everything. */
const ALARM = 1000;
/** And the way back from beyond one everything but that. */
const HARM = 20;

/** A day's pour, water change or level by its name in the programme. */
export const named = {
	/** Of days on which a level is kept there is one: the same amount each time. */
	pour: (s: number, t: number, level: Level) => `${isKept(level, t) ? 'k' : 'x'}${s}_${slotOf(level, t)}`,
	act: (s: number, t: number, level: Level) => `y${named.pour(s, t, level)}`,
	level: (p: number, t: number) => `l${p}_${t}`
};
/** Days from which a level that is kept `anew` has another amount: once its first error is worked off, and then each week. */
const KEPT_ANEW = 2;
const KEPT_DAYS = 7;
/** Which amount it is: by its day, or that of all days on which it is kept, or of some of them. */
export function slotOf(level: Level, t: number): number {
	if (!isKept(level, t)) return t;
	const kept = t - level.keptFrom;
	return !level.anew || kept < KEPT_ANEW ? 0 : 1 + Math.floor(kept / KEPT_DAYS);
}

/** A variable that is one. */
export const ONE = 'one';

/** A sum of terms; each name stands in it once, as the format asks. */
class Sum {
	private readonly terms = new Map<string, number>();
	add(factor: number, name: string): this {
		this.terms.set(name, (this.terms.get(name) ?? 0) + factor);
		return this;
	}
	get empty(): boolean {
		return ![...this.terms.values()].some((factor) => Math.abs(factor) > NOTHING);
	}
	/** In lines of a few terms. */
	toString(): string {
		const parts = [...this.terms].flatMap(([name, factor]) =>
			Math.abs(factor) > NOTHING
				? [`${factor < 0 ? '-' : '+'} ${Math.abs(factor).toPrecision(12)} ${name}`]
				: []
		);
		const lines: string[] = [];
		for (let i = 0; i < parts.length; i += 8) lines.push(parts.slice(i, i + 8).join(' '));
		return lines.join('\n ');
	}
}
const NOTHING = 1e-12;
/** In bands and healthy days: ten times what the solver takes for nothing. */
const ROOM = 1e-6;

/**
 * The plan as a mixed-integer linear programme in CPLEX's LP format. Levels are in bands (a level over its band's width), pours in
 * healthy days (what moves their parameter by one). A water change multiplies the level, which is linear once its size is known: there is one
 * programme for each way of changing water (`waysOfChanging`), and the best of them is the best of all. `relaxed`: trips may be halves,
 * which is a linear programme that no whole one is better than.
 *
 * Robust as follows. A level's error is known for each day (`spread`); what was poured since the last test adds the net volume's, and
 * the root of the sum of both squares is replaced by its chord, which lies above. Mean and 1.645 of that stay below the band's far edge.
 */
export function programmeOf(
	request: CorrectRequest,
	situation: Situation,
	way: Changing = NO_CHANGE,
	relaxed = false
): string {
	const { days, levels, pourables, thickening, volumeError, dosed } = situation;
	const { change, prefer, moves = [] } = request;
	const weights = WEIGHTS[prefer];
	const goal = new Sum();
	const rows: string[] = [];
	const bounds: string[] = [];
	const binaries: string[] = [];
	const row: Row = (sum, sign, right) => {
		if (!sum.empty) rows.push(`${sum.toString()} ${sign} ${right.toPrecision(12)}`);
	};
	// Doing nothing often stands exactly at a limit: with that much room it is never beyond it by the last digit.
	const limit: Row = (sum, sign, right) => row(sum, sign, right + (sign === '<=' ? ROOM : -ROOM));
	const usable = pourables.map((s) => usableDays(s, situation));
	const levelFor = (s: Pourable) =>
		nth(
			levels,
			levels.findIndex((l) => l.parameter === s.main)
		);
	const pourName = (i: number, t: number) => named.pour(i, t, levelFor(nth(pourables, i)));

	pourables.forEach((s, i) => {
		const sum = new Sum();
		const seen = new Set<string>();
		for (const t of nth(usable, i)) {
			const pour = pourName(i, t);
			goal.add(weights.pour + weights.money * s.price * s.most, pour);
			sum.add(s.most, pour);
			const act = named.act(i, t, levelFor(s));
			if (weights.act > 0) goal.add(weights.act, act);
			if (seen.has(pour)) continue;
			seen.add(pour);
			bounds.push(`0 <= ${pour} <= 1`);
			if (weights.act > 0) {
				binaries.push(act);
				row(new Sum().add(1, pour).add(-1, act), '<=', 0);
			}
		}
		if (s.stock !== undefined) row(sum, '<=', Math.max(0, s.stock - (situation.drawn[s.id]?.mL ?? 0)));
	});
	goal.add(costOf(way, request, situation), ONE);
	bounds.push(`${ONE} = 1`);
	// A glass that was moved by hand goes in on its new day as far as everything above allows.
	moves.forEach(({ supplement, to, amount = 0 }, m) => {
		const i = pourables.findIndex((s) => s.id === supplement);
		if (i < 0) return;
		const wanted = new Sum().add(1, `m${m}`);
		goal.add(MOVED, `m${m}`);
		if (usable[i]?.includes(to)) wanted.add(1, pourName(i, to));
		row(wanted, '>=', amount / nth(pourables, i).most);
	});

	levels.forEach((level, p) => {
		const { scale } = level;
		const importance = importanceOf(level.parameter);
		const acts = (t: number) =>
			pourables.flatMap((s, i) =>
				usable[i]?.includes(t) && s.effect[level.parameter]
					? [
							{
								name: pourName(i, t),
								by: ((s.effect[level.parameter] ?? 0) * s.most) / scale,
								own: s.main === level.parameter
							}
						]
					: []
			);
		const thick = (t: number) =>
			level.parameter === 'salinity' || isIon(level.parameter) ? nth(thickening, t) : 1;
		const drift = (t: number) => ((dosed[level.parameter]?.[t] ?? 0) - level.use) / scale;
		const fresh = freshOf(level.parameter, change);
		const isBeside = pourables.some(
			(s) => s.main !== level.parameter && (s.effect[level.parameter] ?? 0) > 0
		);
		const stays = staysWithin(
			level,
			fresh,
			Math.max(...level.natural.slice(1).map((_, t) => drift(t))),
			isBeside
		);
		bounds.push(`${named.level(p, 0)} = ${(level.now / scale).toPrecision(12)}`);
		let since: Poured[] = [];
		/** What others have brought beside, by its name in the programme. */
		let beside: string | undefined;
		const brings = (fresh ?? 0) > 0 || pourables.some((s) => (s.effect[level.parameter] ?? 0) > 0);
		// Where nothing brings any, nothing is decided by it.
		const price = brings ? priceOfSink(level, importance, weights, days) : LEAST_PRICE;
		for (let t = 0; t < days; t++) {
			const next = named.level(p, t + 1);
			const at = named.level(p, t);
			const pours = acts(t);
			const fraction = fresh === undefined ? 0 : fractionOn(t, way, situation);
			const brought = (fraction * (fresh ?? 0)) / scale;
			// l' = thick · l + pours + change + drift.
			const balance = new Sum().add(1, next).add(fraction - thick(t), at);
			for (const { name, by } of pours) balance.add(-by, name);
			// Use cannot take what is not there: what it leaves has a price above all that could be gained by it.
			const left = -(nth(level.natural, t) / scale) * thick(t) - drift(t);
			if (left >= 0) {
				const sink = `u${p}_${t}`;
				balance.add(-1, sink);
				goal.add(price, sink);
			}
			row(balance, '=', drift(t) + brought);
			bounds.push(`${next} >= 0`);

			limitDay(
				level,
				t,
				pours,
				{ fraction, brought },
				drift(t),
				limit,
				riseMargin(situation, level),
				next,
				at
			);
			const dosedToday = dosed[level.parameter]?.[t] ?? 0;
			// Held while something else comes home first: what the tank uses, and no more.
			if (level.mode[t] === 'hold' && pours.length)
				limit(sumOf(pours), '<=', Math.max(0, level.use - dosedToday) / scale);

			if (level.pourDays.indexOf(t) % 2 === 1) since = [];
			since = [...since, ...pours];
			const others = pours.filter((pour) => !pour.own && pour.by > 0);
			if (others.length) {
				const sum = sumOf(others);
				if (beside !== undefined) sum.add(1, beside);
				beside = `s${p}_${t + 1}`;
				row(sum.add(-1, beside), '=', 0);
			}
			edges(
				level,
				p,
				t + 1,
				since,
				beside,
				volumeError,
				row,
				limit,
				goal,
				weights,
				importance,
				t + 1 === days,
				stays
			);
		}
	});
	saturation(request, situation, limit);

	return [
		'Minimize',
		` obj: ${goal.empty ? `0 ${named.level(0, 1)}` : goal.toString()}`,
		'Subject To',
		...rows.map((r, i) => ` c${i}: ${r}`),
		'Bounds',
		...bounds.map((b) => ` ${b}`),
		...(binaries.length && !relaxed ? ['Binary', ...binaries.map((b) => ` ${b}`)] : []),
		'End'
	].join('\n');
}

type Row = (sum: Sum, sign: '<=' | '>=' | '=', right: number) => void;

/** A pour as far as it moves a level, in bands; `own`: it is poured for that level. */
interface Poured {
	name: string;
	by: number;
	own: boolean;
}

/** What a band's width of use that found nothing weighs: more than any plan can gain by it on all days to come. */
const priceOfSink = (
	{ alarm: [low], lower }: Level,
	importance: number,
	weights: Weights,
	days: number
): number =>
	days *
		((low > 0 ? ALARM : 0) + (lower > 0 ? importance * (weights.out + weights.unsure + weights.inner) : 0)) +
	importance * 2 * weights.end +
	LEAST_PRICE;
const LEAST_PRICE = 0.01;

const isIon = (parameter: string) => IONS.includes(parameter);

const sumOf = (pours: Poured[]): Sum => pours.reduce((sum, { name, by }) => sum.add(by, name), new Sum());

/** Days on which a supplement can be poured. */
const usableDays = (s: Pourable, { levels, rests }: Situation): number[] => {
	const level = levels.find((l) => l.parameter === s.main);
	if (!level || !(s.most > 0)) return [];
	return level.pourDays.filter(
		(t) => level.mode[t] !== 'none' && t >= (rests[s.id] ?? 0) && !forbidden(s.effect, levels, t)
	);
};

/** A supplement is left alone where what it brings beside may not be moved: an odd number is not made odder. */
const forbidden = (effect: Record<string, number>, levels: Level[], t: number): boolean =>
	levels.some(
		(l) =>
			l.refused !== undefined &&
			NOT_KNOWN.includes(l.refused) &&
			(effect[l.parameter] ?? 0) * (1 / Math.max(l.up, 1e-9)) > SIDE &&
			l.mode[t] === 'none' &&
			l.parameter !== 'salinity'
	);
/** Of a healthy day, by one mL or g: below that it is no effect. */
const SIDE = 0.01;

/**
 * Edges that no plan comes to, so that no row is spent on them: over the highest of what it is by itself and of new water nothing carries it that
 * does not rise by itself, since what is poured for it ends at the far edge, unless others bring some beside; under the lowest nothing does but
 * water that has less.
 */
function staysWithin(level: Level, fresh: number | undefined, mostDrift: number, isBeside: boolean) {
	const highest = Math.max(...level.natural, fresh ?? 0);
	const lowest = Math.min(...level.natural);
	const thinned = fresh !== undefined && fresh < Math.max(...level.natural);
	return {
		below: (edge: number) => !isBeside && mostDrift <= 0 && highest <= edge && level.upper <= edge,
		above: (edge: number) => !thinned && lowest >= edge
	};
}

/** No day moves it more than animals take, pours and change together; what it does by itself is not the plan's. */
function limitDay(
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
 * Far edge, alarms and how far from where it is wanted. What is poured for a level never carries it over its far edge. What others bring beside
 * is weighed: over the edge of the band it costs as being there does, and no pour carries it to its alarm.
 */
function edges(
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
			for (const { name: pour, by } of pours) sum.add(Z95 * chord * by, pour);
			return sum;
		};
		const over = (edge: number) => Math.max(edge / scale - Z95 * spread, natural);
		const poured = since.filter((pour) => pour.own);
		if (poured.length) {
			const own = reach(poured);
			if (beside !== undefined) own.add(-1, beside);
			limit(own, '<=', over(level.upper));
		}
		if (beside !== undefined) limit(reach(since), '<=', over(Math.max(level.alarm[1], level.now)));
	}
	const soft = (kind: string, edge: number, below: boolean, weight: number) => {
		if (!(weight > 0) || (below ? stays.above(edge) : stays.below(edge))) return;
		const d = `${kind}${p}_${t}`;
		goal.add(weight, d);
		if (below) row(new Sum().add(1, d).add(1, name), '>=', edge / scale);
		else row(new Sum().add(1, d).add(-1, name), '>=', -edge / scale);
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
function saturation(request: CorrectRequest, situation: Situation, limit: Row): void {
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
