import { bad, good, nth } from '../../base';
import { checkChart } from '../check-parts';
import type { Instrument } from '../instrument';
import { usedByNothing } from '../titration';
import { shortOrBetween } from '../words';
import { observeSyringe, plungerOf, syringeValue } from './observe';
import type { SyringeMethod, SyringeReading } from './schema';
import { seenOnSyringe } from './simulate';
import { misreadSyringe, syringeMisreadings } from './misreadings';

/** Titrant in a syringe, read at the plunger's edge. */
export const syringe: Instrument<SyringeMethod, SyringeReading> = {
	name: 'a syringe',
	fields: ['left', 'used'],
	needsChart: true,
	rounding: 'none',
	develops: false,
	titration: {
		usedByNothing: ({ scale, syringe: { fillMl } }) =>
			usedByNothing(scale, ({ by, points }) =>
				points.map(([x, y]): [number, number] => [by === 'left' ? fillMl - x : x, y])
			),
		endsAfterDrop: ({ endPoint }) => endPoint !== 'mid-drop'
	},
	check({ syringe: { fillMl, graduationMl }, scale }, say) {
		if (graduationMl > fillMl) say('/syringe/graduationMl', `cannot be more than the syringe's ${fillMl} mL`);
		if (scale.kind !== 'table') return;
		checkChart(scale.points, say);
		if (scale.by === undefined)
			say('/scale/by', 'must say whether the chart goes by what is "left" or what was "used"');
	},
	observe: observeSyringe,
	toValue: (method, _reading, seen) => syringeValue(method, seen),
	withTechnique(reading, hand) {
		const { hand: _was, ...seen } = reading;
		return hand ? { ...seen, hand } : seen;
	},
	inWords(reading) {
		const { field, seen } = plungerOf(reading);
		return `${shortOrBetween(seen)} ${field}${reading.refills ? ` + ${reading.refills} full` : ''}`;
	},
	misreadings: syringeMisreadings,
	misread: misreadSyringe,
	simulate: seenOnSyringe,
	stepAt({ scale, syringe: { graduationMl } }) {
		if (scale.kind === 'linear') return scale.perMl * graduationMl;
		const [first, last] = [nth(scale.points, 0), scale.points.at(-1)!];
		return Math.abs((last[1] - first[1]) / (last[0] - first[0])) * graduationMl;
	},
	slowDown({ syringe: { fillMl, readAs } }, last, share) {
		const { field, seen } = plungerOf(last);
		if (typeof seen !== 'number') return undefined;
		const used = (last.refills ?? 0) * fillMl + (field === 'left' ? fillMl - seen : seen);
		const quickly = share * used;
		const fullFirst = Math.floor(quickly / fillMl);
		const rest = quickly - fullFirst * fillMl;
		return { readAs, fullFirst, slowAt: readAs === 'left' ? fillMl - rest : rest };
	},
	quick: {
		words: /^(m ?l ?)?(left|used|remaining|gone)?( ?m ?l)?$/,
		lacking: 'syringe',
		alone: 'first',
		shows: ({ syringe: { fillMl } }, number) =>
			number.kind === 'exact'
				? number.value <= fillMl
				: number.kind === 'between' && number.low <= fillMl && number.high <= fillMl,
		read({ syringe: { fillMl, readAs } }, number, { words, refills }) {
			if (number.kind === 'below' || number.kind === 'above')
				return bad('', 'a plunger stands at a line or between two: write 0.48 or 0.46-0.48');
			const seen: number | [number, number] =
				number.kind === 'exact' ? number.value : [number.low, number.high];
			if ((number.kind === 'exact' ? number.value : number.high) > fillMl)
				return bad('', `must be between 0 and ${fillMl} mL, the syringe's size`);
			const more = refills > 0 ? { refills } : {};
			const said = /left|remaining/.test(words) ? 'left' : /used|gone/.test(words) ? 'used' : readAs;
			return good(
				said === 'left'
					? { reads: 'syringe', left: seen, ...more }
					: { reads: 'syringe', used: seen, ...more }
			);
		}
	}
};
