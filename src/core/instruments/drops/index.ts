import { bad, good } from '../../base';
import { checkChart } from '../check-parts';
import type { Instrument } from '../instrument';
import { onScale } from '../simulate';
import { throughLine, usedByNothing } from '../titration';
import { throughTable } from '../transforms';
import { DEFAULT_DROP_RELATIVE, observeDrops } from './observe';
import type { DropsMethod, DropsReading } from './schema';
import { dropMisreadings, misreadDrops } from './misreadings';

/** Titrant from a bottle, drops counted. */
export const drops: Instrument<DropsMethod, DropsReading> = {
	name: 'drops',
	fields: ['drops'],
	needsChart: true,
	rounding: 'some',
	develops: false,
	titration: {
		usedByNothing: ({ scale }) => usedByNothing(scale, ({ points }) => points),
		endsAfterDrop: ({ endPoint }) => endPoint !== 'mid-drop'
	},
	check({ scale }, say) {
		if (scale.kind === 'table') checkChart(scale.points, say);
	},
	observe: observeDrops,
	toValue: ({ scale }, _reading, seen) =>
		scale.kind === 'linear'
			? throughLine(seen, scale.perDrop, scale.atZero)
			: throughTable(seen, scale.points),
	withTechnique(reading, hand) {
		const { hand: _was, ...seen } = reading;
		return hand ? { ...seen, hand } : seen;
	},
	inWords: (reading) =>
		[
			`${reading.drops} drops`,
			reading.confirming ? `${reading.confirming} confirming` : '',
			reading.doubtful ? `${reading.doubtful} doubtful` : ''
		]
			.filter(Boolean)
			.join(', '),
	misreadings: dropMisreadings,
	misread: misreadDrops,
	simulate({ scale, uncertainty }, truth, bias, { gauss }) {
		const needed = onScale(scale, truth, (s) => s.perDrop) * (1 + bias.relative);
		const scatter = 1 + gauss() * (uncertainty?.dropRelative ?? DEFAULT_DROP_RELATIVE);
		// Whole drops fall until it has turned: the last is on average half wasted.
		return { reads: 'drops', drops: Math.max(0, Math.ceil(needed * scatter - bias.allowed)) };
	},
	stepAt: ({ scale }) => (scale.kind === 'linear' ? scale.perDrop : null),
	quick: {
		words: /^(drops?|d)$/,
		lacking: 'drop count',
		alone: 'else',
		shows: (_method, number) => number.kind === 'exact' && Number.isInteger(number.value),
		read: (_method, number) =>
			number.kind === 'exact' && Number.isInteger(number.value)
				? good({ reads: 'drops', drops: number.value })
				: bad('', 'drops are counted: write a whole number')
	}
};
