import { good, nth } from '../../base';
import { isQuantity } from '../../quantities';
import { checkRising, checkUnit } from '../check-parts';
import type { Instrument } from '../instrument';
import { converted } from '../transforms';
import { short } from '../words';
import { columnRead, countsDilution, observeShades } from './observe';
import type { ShadesMethod, ShadesReading } from './schema';
import { matchedShade } from './simulate';
import { misreadShades, shadeMisreadings } from './misreadings';

/** A colour matched to the patches of a card, a wheel or a block. */
export const shades: Instrument<ShadesMethod, ShadesReading> = {
	name: 'shades of colour',
	fields: ['shade', 'between', 'below', 'above'],
	needsChart: true,
	rounding: 'all',
	develops: true,
	check({ parameter, shades: printed, colours, columns }, say) {
		checkRising(printed, '/shades', say);
		printed.forEach((shade, i) => {
			if (shade < 0) say(`/shades/${i}`, 'cannot be below 0');
		});
		const patches = printed.length;
		if (colours && colours.length !== patches)
			say('/colours', `must name one colour for each of the ${patches} patches`);
		columns?.forEach((column, c) => {
			if (column.unit) checkUnit(parameter, column.unit, `/columns/${c}/unit`, say);
			if (columns.findIndex((other) => other.name === column.name) < c)
				say(`/columns/${c}/name`, `“${column.name}” is there twice`);
			if (column.shades.length !== patches)
				say(`/columns/${c}/shades`, `must have one value for each of the ${patches} patches`);
			checkRising(column.shades, `/columns/${c}/shades`, say);
		});
	},
	observe: observeShades,
	toValue(method, reading, seen) {
		const printed = columnRead(method, reading)?.unit ?? method.unit;
		return isQuantity(method.parameter)
			? converted(seen, method.parameter, printed, method.unit)
			: good(seen);
	},
	countsDilution,
	withTechnique(reading, hand) {
		const { hand: _was, ...seen } = reading;
		// Past an end of the card no eye has to choose.
		return hand && !('below' in seen || 'above' in seen) ? { ...seen, hand } : seen;
	},
	inWords(reading) {
		if ('shade' in reading) return `shade ${reading.shade}`;
		if ('between' in reading) return `between ${reading.between.join(' and ')}`;
		return 'below' in reading ? `below ${short(reading.below)}` : `above ${short(reading.above)}`;
	},
	misreadings: shadeMisreadings,
	misread: misreadShades,
	simulate: matchedShade,
	stepAt({ shades: printed }, value) {
		const above = printed.findIndex((s) => s > value);
		return above > 0 ? nth(printed, above) - nth(printed, above - 1) : null;
	},
	quick: {
		lacking: 'card',
		alone: 'always',
		unit: ({ unit }) => unit,
		shows: ({ shades: printed }, number) =>
			(number.kind === 'between' ? [number.low, number.high] : [number.value]).every((x) =>
				printed.includes(x)
			),
		read(_method, number) {
			const reads = 'shades';
			switch (number.kind) {
				case 'exact':
					return good({ reads, shade: number.value });
				case 'between':
					return good({ reads, between: [number.low, number.high] });
				case 'below':
					return good({ reads, below: number.value });
				case 'above':
					return good({ reads, above: number.value });
			}
		}
	}
};
