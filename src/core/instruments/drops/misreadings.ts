import type { Misreading, Misread } from '../misreadings';
import type { DropsMethod, DropsReading } from './schema';

/** Drops by which a count goes wrong: a few either way at a distraction, and of three such misreadings one is a whole ten that was lost. */
const FEW = [1, 2, 3, 4, 5, 6, 7, 8, 9].flatMap((by) => [-by, by]);
const TEN_LOST = 1 / 3;
const MISCOUNTS = [
	...FEW.map((by) => ({ by, chance: (1 - TEN_LOST) / FEW.length })),
	{ by: 10, chance: TEN_LOST }
];

export const dropMisreadings = (
	_method: DropsMethod,
	reading: DropsReading
): Misread<DropsMethod, DropsReading>[] =>
	MISCOUNTS.filter(({ by }) => reading.drops + by > 0).map(({ by, chance }) => ({
		slip: 'drop-count',
		chance,
		reading: { ...reading, drops: reading.drops + by },
		stretch: 1,
		ask: `Did the count slip: ${reading.drops + by} drops instead of ${reading.drops}?`
	}));

/** Drops lost or counted twice at a distraction, as it happens: up to a third of them; now and then a ten is lost. */
const FEW_SHARE = 1 / 3;
const OFTEN_TEN = 0.3;

export function misreadDrops(
	_method: DropsMethod,
	reading: DropsReading,
	slip: Misreading,
	random: () => number
): DropsReading[] {
	if (slip !== 'drop-count') return [];
	const off = (by: number): DropsReading => ({ ...reading, drops: reading.drops + by });
	if (reading.drops > 10 && random() < OFTEN_TEN) return [off(-10)];
	const few = 1 + Math.floor(random() * FEW_SHARE * reading.drops);
	return [-few, few].map(off).filter((r) => r.drops > 0);
}
