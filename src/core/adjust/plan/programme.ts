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
import { importanceOf, MOVED, WEIGHTS } from './weights';

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
			limits(
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
