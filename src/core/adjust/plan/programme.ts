import { nth } from '../../base';
import { NOT_KNOWN, type CorrectRequest } from './schema';
import { costOf, fractionOn, freshOf, NO_CHANGE, type Changing } from './changing';
import { IONS } from './limits';
import { riseMargin, type Level } from './level';
import { named, ONE } from './names';
import {
	limits,
	LEAST_PRICE,
	limitDay,
	priceOfSink,
	saturation,
	staysWithin,
	sumOf,
	type Poured
} from './rows';
import type { Pourable, Situation } from './situation';
import { Sum, type Row } from './sum';
import { importanceOf, MOVED, WEIGHTS, type Weights } from './weights';

/** In bands and healthy days: ten times what the solver takes for nothing. */
const ROOM = 1e-6;

/**
 * The plan as a mixed-integer linear programme in CPLEX's LP format. Levels are in bands (a level over its band's width), pours in
 * healthy days (what moves their parameter by one). A water change multiplies the level, which is linear once its size is known: there is one
 * programme for each way of changing water (`waysOfChanging`), and the best of them is the best of all. `relaxed`: trips may be halves,
 * which is a linear programme that no whole one is better than.
 *
 * Robust as follows. A level's error is known for each day (`spread`); what was poured since the last test adds the net volume's, and
 * the root of the sum of both squares is replaced by its chord, which lies above. Mean and 1.645 of that stay below the band's far limit.
 */
export function programmeOf(
	request: CorrectRequest,
	situation: Situation,
	way: Changing = NO_CHANGE,
	relaxed = false
): string {
	const programme = newProgramme(request, situation, way);
	const { goal, rows, bounds, binaries, limit } = programme;
	pours(programme);
	goal.add(costOf(way, request, situation), ONE);
	bounds.push(`${ONE} = 1`);
	movedByHand(programme);
	situation.levels.forEach((level, p) => levelOverDays(programme, level, p));
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

/** A programme while it is written. */
interface Programme {
	request: CorrectRequest;
	situation: Situation;
	way: Changing;
	weights: Weights;
	goal: Sum;
	rows: string[];
	bounds: string[];
	binaries: string[];
	row: Row;
	/** As `row`, with a little room. */
	limit: Row;
	/** Days on which each supplement can be poured, and the name of such a pour. */
	usable: number[][];
	pourName: (supplement: number, day: number) => string;
}

function newProgramme(request: CorrectRequest, situation: Situation, way: Changing): Programme {
	const { levels, pourables } = situation;
	const rows: string[] = [];
	const row: Row = (sum, sign, right) => {
		if (!sum.empty) rows.push(`${sum.toString()} ${sign} ${right.toPrecision(12)}`);
	};
	return {
		request,
		situation,
		way,
		weights: WEIGHTS[request.prefer],
		goal: new Sum(),
		rows,
		bounds: [],
		binaries: [],
		row,
		// Doing nothing often stands exactly at a limit: with that much room it is never beyond it by the last digit.
		limit: (sum, sign, right) => row(sum, sign, right + (sign === '<=' ? ROOM : -ROOM)),
		usable: pourables.map((s) => usableDays(s, situation)),
		pourName: (i, t) => named.pour(i, t, mainOf(levels, nth(pourables, i)))
	};
}

/** The level that a supplement is poured for. */
const mainOf = (levels: Level[], { main }: Pourable): Level =>
	nth(
		levels,
		levels.findIndex((l) => l.parameter === main)
	);

/** What each pour costs, that it is at most a healthy day, counts as a trip, and leaves what its bottle holds. */
function pours({ situation, weights, goal, bounds, binaries, row, usable, pourName }: Programme): void {
	situation.pourables.forEach((s, i) => {
		const sum = new Sum();
		const seen = new Set<string>();
		for (const t of nth(usable, i)) {
			const pour = pourName(i, t);
			goal.add(weights.pour + weights.money * s.price * s.most, pour);
			sum.add(s.most, pour);
			const act = named.act(i, t, mainOf(situation.levels, s));
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
}

/** A glass that was moved by hand goes in on its new day as far as everything else allows. */
function movedByHand({ request, situation: { pourables }, goal, row, usable, pourName }: Programme): void {
	(request.moves ?? []).forEach(({ supplement, to, amount = 0 }, m) => {
		const i = pourables.findIndex((s) => s.id === supplement);
		if (i < 0) return;
		const wanted = new Sum().add(1, `m${m}`);
		goal.add(MOVED, `m${m}`);
		if (usable[i]?.includes(to)) wanted.add(1, pourName(i, to));
		row(wanted, '>=', amount / nth(pourables, i).most);
	});
}

/** What pours of one day bring to a level, in bands. */
const poursOn = (
	{ situation, usable, pourName }: Programme,
	{ parameter, scale }: Level,
	t: number
): Poured[] =>
	situation.pourables.flatMap((s, i) => {
		const effect = s.effect[parameter] ?? 0;
		return usable[i]?.includes(t) && effect
			? [{ name: pourName(i, t), by: (effect * s.most) / scale, own: s.main === parameter }]
			: [];
	});

/** The balance of one level from day to day, and all that holds it. `p`: its place among the levels. */
function levelOverDays(programme: Programme, level: Level, p: number): void {
	const { request, situation, way, weights, goal, bounds, row, limit } = programme;
	const { days, pourables, thickening, volumeError, dosed } = situation;
	const { parameter, scale } = level;
	const importance = importanceOf(parameter);
	const thick = (t: number) => (parameter === 'salinity' || isIon(parameter) ? nth(thickening, t) : 1);
	const drift = (t: number) => ((dosed[parameter]?.[t] ?? 0) - level.use) / scale;
	const fresh = freshOf(parameter, request.change);
	const mostDrift = Math.max(...level.natural.slice(1).map((_, t) => drift(t)));
	const isBeside = pourables.some((s) => s.main !== parameter && (s.effect[parameter] ?? 0) > 0);
	const stays = staysWithin(level, fresh, mostDrift, isBeside);
	bounds.push(`${named.level(p, 0)} = ${(level.now / scale).toPrecision(12)}`);
	let since: Poured[] = [];
	/** What others have brought beside, by its name in the programme. */
	let beside: string | undefined;
	const brings = (fresh ?? 0) > 0 || pourables.some((s) => (s.effect[parameter] ?? 0) > 0);
	// Where nothing brings any, nothing is decided by it.
	const price = brings ? priceOfSink(level, importance, weights, days) : LEAST_PRICE;
	for (let t = 0; t < days; t++) {
		const next = named.level(p, t + 1);
		const at = named.level(p, t);
		const today = poursOn(programme, level, t);
		const fraction = fresh === undefined ? 0 : fractionOn(t, way, situation);
		const brought = (fraction * (fresh ?? 0)) / scale;
		// l' = thick · l + pours + change + drift.
		const balance = new Sum().add(1, next).add(fraction - thick(t), at);
		for (const { name, by } of today) balance.add(-by, name);
		// Use cannot take what is not there: what it leaves has a price above all that could be gained by it.
		const left = -(nth(level.natural, t) / scale) * thick(t) - drift(t);
		if (left >= 0) {
			const sink = `u${p}_${t}`;
			balance.add(-1, sink);
			goal.add(price, sink);
		}
		row(balance, '=', drift(t) + brought);
		bounds.push(`${next} >= 0`);

		const margin = riseMargin(situation, level);
		limitDay(level, t, today, { fraction, brought }, drift(t), limit, margin, next, at);
		// Held while something else comes home first: what the tank uses, and no more.
		if (level.mode[t] === 'hold' && today.length)
			limit(sumOf(today), '<=', Math.max(0, level.use - (dosed[parameter]?.[t] ?? 0)) / scale);

		if (level.pourDays.indexOf(t) % 2 === 1) since = [];
		since = [...since, ...today];
		const others = today.filter((pour) => !pour.own && pour.by > 0);
		if (others.length) {
			const sum = sumOf(others);
			if (beside !== undefined) sum.add(1, beside);
			beside = `s${p}_${t + 1}`;
			row(sum.add(-1, beside), '=', 0);
		}
		const isLast = t + 1 === days;
		limits(level, p, t + 1, since, beside, volumeError, row, limit, goal, weights, importance, isLast, stays);
	}
}

const isIon = (parameter: string) => IONS.includes(parameter);

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
