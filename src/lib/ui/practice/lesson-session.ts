import {
	dropsTruth,
	syringeTruth,
	type Cause,
	type TechniqueRequest,
	type Seen,
	type Truth
} from '$core/practice';
import type { Light } from '$core/photograph';
import { ATOM } from '$core/catalogue';
import { SEA, grownTo } from '$core/titration';
import { CARDS, KITS, chartOf, type CardName, type KitName, type PracticeKit } from './kits';
import type { VialBench } from './vial-bench';

/** What came of each stage of a lesson, in its order. */
export type Result =
	| { do: 'fill'; kit: KitName; edge: number }
	| { do: 'precipitate'; share: number; part: number }
	| { do: 'titrate'; kit: KitName; value: number; half: boolean; bench: VialBench }
	/** `edge`: where the plunger stood; of drops nothing. `said`: mL left, or drops, from and to. */
	| { do: 'read'; kit: KitName; edge: number | undefined; said: [number, number]; refills: number }
	| { do: 'pairs'; card: CardName; looks: Seen[] }
	| { do: 'match'; card: CardName; value: number; said: [number, number]; seconds: number };

/** The truth of one number of a lesson, in the unit of the real thing. */
export interface Verdict {
	title: string;
	parameter: string;
	unit: string;
	said: number;
	truth: number;
	/** They add up to what was said less the truth. */
	causes: { by: Cause['by'] | 'early' | 'late' | 'shade' | 'taken-away'; value: number }[];
	slip: Truth['slip'];
	/** What was said lay between two lines, and so did the truth. */
	between: boolean;
	/** What nobody sees finer than, in the same unit: one drop, one line, one patch. */
	step: number;
	stepIs: 'drop' | 'line' | 'patch';
	/** Seconds in which it streamed. */
	streamed: number;
}

/** Typical of what lessons without a vial are about. */
const TYPICAL: Record<string, number> = { calcium: 420, alkalinity: 8 };
/** Differences below this share of a line are none: nobody reads finer. */
const NO_DIFFERENCE = 0.02;

const middle = ([a, b]: [number, number]): number => (a + b) / 2;
const verdict = (kit: PracticeKit, more: Partial<Verdict> & Pick<Verdict, 'said' | 'truth'>): Verdict => ({
	title: kit.title,
	parameter: kit.parameter,
	unit: kit.unit,
	causes: [],
	slip: undefined,
	between: false,
	step: 0,
	stepIs: 'line',
	streamed: 0,
	...more
});

/** What a lesson comes to, number by number. */
export function verdictsOf(results: Result[]): Verdict[] {
	return results.flatMap((result, i): Verdict[] => {
		const before = results[i - 1];
		switch (result.do) {
			case 'fill':
				return results.slice(i).some((r) => r.do === 'titrate' && r.kit === result.kit)
					? []
					: [ofFill(result)];
			case 'read':
				return before?.do === 'titrate' && before.kit === result.kit
					? [ofTitration(before, result, results.slice(0, i))]
					: [ofReading(result)];
			case 'match':
				return [ofMatch(result)];
			default:
				return [];
		}
	});
}

type Of<D extends Result['do']> = Extract<Result, { do: D }>;

function ofFill({ kit: name, edge }: Of<'fill'>): Verdict {
	const kit = KITS[name];
	const truth = TYPICAL[kit.parameter] ?? 0;
	const { perMl } = chartOf(kit, truth);
	const off = (kit.fillMl - edge) * perMl;
	const real = Math.abs(kit.fillMl - edge) > NO_DIFFERENCE * kit.graduationMl;
	return verdict(kit, {
		said: truth + off,
		truth,
		causes: real ? [{ by: 'filling', value: off }] : [],
		slip: Math.abs(kit.fillMl - (edge - AIR_ML)) < 0.012 ? 'liquid-edge' : undefined,
		step: kit.graduationMl * perMl
	});
}
/** The air between plunger and liquid in these syringes, mL. */
const AIR_ML = 0.045;

function ofReading({ kit: name, edge = 0, said }: Of<'read'>): Verdict {
	const kit = KITS[name];
	const { perMl } = chartOf(kit, TYPICAL[kit.parameter] ?? 1);
	const { slip } = syringeTruth({
		fullMl: kit.fillMl,
		startEdge: kit.fillMl,
		endEdge: edge,
		airMl: AIR_ML,
		hangingMl: 0,
		fellMl: kit.fillMl - edge,
		saidLeft: middle(said),
		refills: 0,
		saidRefills: 0,
		endMl: kit.fillMl - edge,
		nominalEndMl: kit.fillMl - edge
	});
	const off = (edge - middle(said)) * perMl;
	const between = said[0] < said[1] && said[0] <= edge && edge <= said[1];
	return verdict(kit, {
		said: (kit.fillMl - middle(said)) * perMl,
		truth: (kit.fillMl - edge) * perMl,
		causes: [{ by: 'reading', value: off }],
		slip,
		between,
		step: kit.graduationMl * perMl
	});
}

function ofTitration(
	{ bench, value, half, kit: name }: Of<'titrate'>,
	read: Of<'read'>,
	earlier: Result[]
): Verdict {
	const { kit } = bench;
	const { endMl: nominalEndMl, perMl } = chartOf(kit, value, half ? 0.5 : 1);
	const truth =
		kit.reads === 'drops'
			? dropsTruth({
					dropMl: kit.dropMl,
					said: middle(read.said),
					fallen: bench.fallen,
					fellMl: bench.fellMl,
					endMl: bench.endMl,
					nominalEndMl
				})
			: syringeTruth({
					fullMl: kit.fillMl,
					startEdge: bench.startEdge,
					endEdge: bench.syringe.edge,
					airMl: AIR_ML,
					hangingMl: bench.syringe.hanging,
					fellMl: bench.fellMl,
					saidLeft: middle(read.said),
					refills: bench.refills,
					saidRefills: read.refills,
					endMl: bench.endMl,
					nominalEndMl
				});
	const filtered = earlier.some((r) => r.do === 'precipitate');
	const causes: Verdict['causes'] = truth.causes.map((c) => ({
		by: c.by === 'sample' && filtered ? 'precipitate' : c.by,
		value: c.ml * perMl
	}));
	let said = truth.saidMl * perMl;
	let real = value;
	if (name === 'total') {
		// The calcium of the same water, as it was said: what it was off by is off here too.
		const saidCalcium = verdictsOf(earlier).find((v) => v.parameter === 'calcium')?.said ?? SEA.calcium;
		const ratio = ATOM.Mg / ATOM.Ca;
		said -= ratio * saidCalcium;
		causes.push({ by: 'taken-away', value: -ratio * (saidCalcium - SEA.calcium) });
		real = truth.trueMl * perMl - ratio * SEA.calcium;
	}
	return verdict(kit, {
		title: name === 'total' ? 'Magnesium, total less calcium' : kit.title,
		said,
		truth: real,
		causes: causes.sort((a, b) => Math.abs(b.value) - Math.abs(a.value)),
		slip: truth.slip,
		step: kit.dropMl * perMl,
		stepIs: 'drop',
		streamed: bench.streamed
	});
}

function ofMatch({ card: name, value, said, seconds }: Of<'match'>): Verdict {
	const card = CARDS[name];
	const { values } = card.card;
	const shown = value * grownTo(card, seconds);
	const by = seconds < card.dueSeconds ? 'early' : 'late';
	const i = Math.max(
		1,
		values.findIndex((v) => v > value)
	);
	const step = (values[i] ?? 0) - (values[i - 1] ?? 0);
	// In its time the dye is as the card has it.
	const timely = seconds >= 0.9 * card.dueSeconds && seconds <= card.dueSeconds + card.withinSeconds;
	const between = said[0] < said[1] && said[0] <= value && value <= said[1];
	return {
		title: card.title,
		parameter: card.parameter,
		unit: card.unit,
		said: middle(said),
		truth: value,
		causes: [
			...(timely ? [] : [{ by, value: shown - value } as const]),
			{ by: 'shade' as const, value: middle(said) - (timely ? value : shown) }
		].sort((a, b) => Math.abs(b.value) - Math.abs(a.value)),
		slip: undefined,
		between,
		step,
		stepIs: 'patch',
		streamed: 0
	};
}

/** What of a lesson says something of the hand: every end that was chosen, every plunger that was read and not misread, every pair that was told. */
export function triesIn(results: Result[], light: Light): Required<TechniqueRequest> {
	const verdicts = verdictsOf(results);
	const wasMisread = new Set(verdicts.filter((v) => v.slip).map((v) => v.title));
	return {
		endPoints: results.flatMap((r) => {
			if (r.do !== 'titrate' || r.kit === 'total') return [];
			const { kit, syringe, fellMl, endMl, fallen } = r.bench;
			const over =
				kit.reads === 'drops' ? fallen - endMl / kit.dropMl : (fellMl + syringe.hanging - endMl) / kit.dropMl;
			return [{ instrument: kit.reads, parameter: kit.parameter, light, over }];
		}),
		plungers: results.flatMap((r) => {
			const kit = r.do === 'read' ? KITS[r.kit] : undefined;
			return r.do === 'read' &&
				kit &&
				r.edge !== undefined &&
				r.said[0] === r.said[1] &&
				!wasMisread.has(kit.title)
				? [{ off: (r.said[0] - r.edge) / kit.graduationMl }]
				: [];
		}),
		looks: results.flatMap((r) =>
			r.do === 'pairs' ? r.looks.map((look) => ({ parameter: CARDS[r.card].parameter, light, ...look })) : []
		)
	};
}
