import { good } from '../../base';
import { convert, isQuantity, type Entered } from '../../quantities';
import { checkUnit } from '../check-parts';
import type { Instrument } from '../instrument';
import { decimalMisreadings, unitMisreadings, type Misread } from '../misreadings';
import { converted } from '../transforms';
import { short, shortOrBetween } from '../words';
import { observeShown } from './observe';
import type { ShownMethod, ShownReading } from '../shown-parts';

/** A number that stands there: on a display, or at a line of a scale. */
export function shownOn<K extends 'display' | 'scale-line', M extends ShownMethod & { reads: K }>(
	reads: K,
	name: string
): Instrument<M, ShownReading<K>> {
	type R = ShownReading<K>;
	const seenAt = (shown: number | [number, number]) => ({ reads, shown }) as R;
	return {
		name,
		fields: ['shown', 'below', 'above'],
		needsChart: false,
		rounding: 'none',
		develops: reads === 'display',
		promised: ({ display: { relative, absolute } }) => ({
			...(relative === undefined ? {} : { relative }),
			...(absolute === undefined ? {} : { absolute })
		}),
		check({ parameter, display: { unit, range } }, say) {
			checkUnit(parameter, unit, '/display/unit', say);
			if (range && !(range[0] < range[1])) say('/display/range', 'must name the lower end first');
		},
		observe: observeShown,
		toValue: ({ parameter, display, unit }, _reading, seen) =>
			isQuantity(parameter) ? converted(seen, parameter, display.unit, unit) : good(seen),
		inWords(reading) {
			if ('below' in reading) return `below ${short(reading.below)}`;
			if ('above' in reading) return `above ${short(reading.above)}`;
			return `${shortOrBetween(reading.shown)} shown`;
		},
		misreadings(method, reading) {
			if (!('shown' in reading)) return [];
			const { range: _range, absolute: _absolute, ...display } = method.display;
			const list: Misread<M, R>[] = unitMisreadings(method, display.unit, (unit) => ({
				method: { ...method, display: { ...display, unit } },
				reading
			}));
			const { shown } = reading;
			// A decimal misreading in a specific gravity or a pH leaves the scale and is refused before it can be asked about.
			if (typeof shown === 'number' && !display.unit.startsWith('SG'))
				list.push(...decimalMisreadings(shown, (meant): R => ({ ...reading, shown: meant })));
			return list;
		},
		misread(method, reading, slip) {
			if (!('shown' in reading) || typeof reading.shown !== 'number') return [];
			const { shown } = reading;
			if (slip === 'decimal')
				return [10, 0.1].map((by): R => ({ ...reading, shown: Number((shown * by).toPrecision(12)) }));
			if (slip !== 'unit') return [];
			// What the same water reads on a display set to the other unit.
			return this.misreadings(method, reading)
				.filter((s) => s.slip === 'unit')
				.flatMap((s) => {
					const elsewhere = convert({
						quantity: method.parameter,
						value: shown,
						from: method.display.unit,
						to: s.method!.display.unit
					});
					return elsewhere.ok ? [seenAt(Number(elsewhere.value.value.toPrecision(6)))] : [];
				});
		},
		simulate({ display, parameter, unit }, truth, bias, { gauss }) {
			const shown =
				isQuantity(parameter) && unit !== display.unit
					? convert({ quantity: parameter, value: truth, from: unit, to: display.unit })
					: undefined;
			const exact = shown ? (shown.ok ? shown.value.value : truth) : truth;
			const step = display.graduation ?? display.resolution ?? 0.01;
			const seen = exact * (1 + bias.relative) + bias.absolute + gauss() * step * 0.2;
			const [low, high] = display.range ?? [-Infinity, Infinity];
			return seenAt(Number(Math.max(low, Math.min(high, Math.round(seen / step) * step)).toPrecision(10)));
		},
		stepAt: ({ display, unit }) =>
			display.unit === unit ? (display.graduation ?? display.resolution ?? null) : null,
		quick: {
			lacking: name,
			alone: 'never',
			unit: ({ display }) => display.unit,
			shows: ({ display }, number) => within(display.range, number),
			read(_method, number) {
				switch (number.kind) {
					case 'exact':
						return good(seenAt(number.value));
					case 'between':
						return good(seenAt([number.low, number.high]));
					case 'below':
						return good({ reads, below: number.value } as R);
					case 'above':
						return good({ reads, above: number.value } as R);
				}
			}
		}
	};
}

const within = (range: [number, number] | undefined, n: Entered): boolean =>
	!range ||
	(n.kind === 'between'
		? n.low >= range[0] && n.high <= range[1]
		: n.value >= range[0] && n.value <= range[1]);
