import Type from 'typebox';
import { bad, good, nth, type Outcome } from '../base';
import { isQuantity, meanings, type Quantity } from '../quantities';
import { PARAMETERS, nameInSentence, type ParameterId } from '../catalogue';
import { amountIn, unitNamed } from '../quick';
import { Label } from './supplement';

const exact = { additionalProperties: false } as const;

export const LabelRequest = Type.Object(
	{
		/** As the label has it: “1 mL in 100 L raises alkalinity by 0.25 dKH”. */
		sentence: Type.String({ minLength: 1, maxLength: 200 }),
		/** What it raises, where the sentence does not say, or says of several. */
		parameter: Type.Optional(Type.String({ minLength: 1, maxLength: 40 }))
	},
	exact
);
export type LabelRequest = Type.Static<typeof LabelRequest>;

export const LabelResult = Type.Object(
	{
		/** As it is most likely meant. */
		label: Label,
		/** What has two readings: a number with a mark that could be of thousands, or several that rise. It counts once somebody chose. */
		asks: Type.Optional(
			Type.Array(
				Type.Object(
					{
						kind: Type.Unsafe<'number' | 'parameter'>({ type: 'string', enum: ['number', 'parameter'] }),
						readings: Type.Array(Label)
					},
					exact
				)
			)
		)
	},
	exact
);
export type LabelResult = Type.Static<typeof LabelResult>;

/**
 * A label's sentence as a calculation: see {@link labelIn}; what has two readings comes with both.
 *
 * @example label({ sentence: '10 mL in 1,000 L (264 gal) raise Ca2+ by 2 ppm' }).value.label.waterL // → 1000
 */
export function label({ sentence, parameter }: LabelRequest): Outcome<LabelResult> {
	const found = readingsIn(sentence, parameter);
	if (!found.ok) return { ok: false, problems: found.problems.map((p) => ({ ...p, path: '/sentence' })) };
	const { readings, kind } = found.value;
	return good({ label: nth(readings, 0), ...(kind ? { asks: [{ kind, readings }] } : {}) });
}

/** No label says more in a sentence. */
const LONGEST = 200;
/** A number that does not hang on letters, as those of NO3 and Mg2+ do: with marks, or with spaces between thousands. */
const NUMBER = /(?<![\p{L}\d.,])(?:(?:\d{1,3}(?:[ '’]\d{3})+|\d+)(?:[.,]\d+)*|[.,]\d+)/gu;
/** What has numbers and is neither amount, water nor rise: what stands in brackets, temperatures, shares, times, and pH. */
const BESIDE = [
	/\([^)]*(?<![A-Za-z\d])\d[^)]*\)/g,
	/\bpH\b(?:\s*(?:value|by|of|to|about|up|down|[~:+-]))*\s*\d*[.,]?\d*/g,
	/\b(?:every|each|all|per)\s+\d+\s*(?:days?|weeks?|hours?|h)\b/gi,
	/\d+(?:[.,]\d+)?\s*(?:°\s*[CF]\b|[CF]\b|%|(?:days?|weeks?|months?|hours?|hrs?|minutes?|min|times|drops?)\b)/g
];
const AMOUNT = /^\s*(ml|millilit(?:er|re)s?|cc|g|gr|grams?|grammes?)\b(?!\s*\/)/i;
const WATER = /^\s*((?:(?:us|uk|imp(?:erial)?)\.?\s*)?(?:l|lit(?:er|re)s?|gal(?:lon)?s?))\b/i;
const RISE =
	/^\s*((?:°\s*)?d?KH|°\s*dH|meq(?:\s*\/\s*l)?|mmol(?:\s*\/\s*l)?|mg\s*(?:\/|per)?\s*l(?:it(?:er|re))?|ppm|ppb|[µμu]g\s*\/\s*l)\b((?:\s*(?:as|of))?\s*\(?(?:CaCO3|NO3[ -]?N|PO4[ -]?P|NO3|PO4|N|P)\b\)?)?/i;
/** Units that say themselves what they are of. */
const OF_ALKALINITY = /kh|°\s*dh|meq|caco3/i;
const NAMES = PARAMETERS.flatMap(({ id, onLabels }): [RegExp, ParameterId][] =>
	onLabels ? [[onLabels, id]] : []
);
const RAISES = /\b(?:rais|increas|add|boost|elevat|giv|bring)/i;
const LOWERS = /\b(?:lower|reduc|decreas|remov)/i;

/** What labels pour by: capfuls and spoons, of so many mL or g in brackets. */
const CAPFUL =
	/\b(?:caps?(?:ful)?s?|capsful|spoons?(?:ful)?s?|teaspoons?|scoops?|measures?|pumps?|squirts?)\b/i;
const VESSEL = new RegExp(
	String.raw`(?:(\d+|an?|one|two|three|half an?)\s+)?(?:level\s+)?(?:${CAPFUL.source})\s*\(([^)]*\d\s*(?:ml|g|grams?|millilit(?:er|re)s?)\b[^)]*)\)`,
	'i'
);
const COUNTED: Record<string, number> = { two: 2, three: 3, half: 0.5 };
/** "2 capfuls (5 mL each)" as its 10 mL; in brackets stands the whole, where it is not said of each. */
function inVessel(_all: string, count: string | undefined, brackets: string): string {
	const many = Number(count) || (COUNTED[count?.split(' ')[0]?.toLowerCase() ?? ''] ?? 1);
	if (!/\b(?:each|per|a)\b/i.test(brackets)) return ` ${brackets} `;
	return brackets.replace(/\d+(?:[.,]\d+)?/, (n) =>
		String(Number((many * Number(n.replace(',', '.'))).toPrecision(6)))
	);
}

interface Figure {
	written: string;
	at: number;
	/** Where its unit ends. */
	end: number;
	unit: string;
}

/**
 * A label's sentence as its numbers, each by the unit beside it. `parameter`: what it raises, where the sentence does not say or says of
 * several; gallons are US ones unless said; of water “1,000 L” is a thousand. Problems: what is missing of it, or could be read in two ways.
 *
 * @example labelIn('1 mL in 100 L raises alkalinity by 0.25 dKH').value.waterL // → 100
 */
export function labelIn(text: string, parameter?: string): Outcome<Label> {
	const found = readingsIn(text, parameter);
	if (!found.ok) return found;
	const { readings, kind, written } = found.value;
	if (kind === 'parameter')
		return bad(
			'',
			`names several that rise: choose one of them, ${namesOf(readings.map((r) => r.raises.parameter))}`
		);
	const [first, second] = written === undefined ? [] : meanings(written);
	return kind === 'number'
		? bad(
				'',
				`says “${written}”, which is ${first} or ${second}: write it without the mark, or with more digits`
			)
		: good(nth(readings, 0));
}

/** The numbers of a sentence by the unit beside them: how much, into how much water, and what rises by how much. */
function figuresIn(plain: string): {
	amount: Figure | undefined;
	water: Figure | undefined;
	rises: Figure[];
} {
	const numbers = [...plain.matchAll(NUMBER)].map((m) => ({ written: m[0], at: m.index }));
	const withUnit = (unit: RegExp): Figure[] =>
		numbers.flatMap(({ written, at }) => {
			const behind = unit.exec(plain.slice(at + written.length));
			if (!behind) return [];
			const end = at + written.length + behind[0].length;
			return [{ written, at, end, unit: behind.slice(1).join('').trim() }];
		});
	return { amount: withUnit(AMOUNT)[0], water: withUnit(WATER)[0], rises: withUnit(RISE) };
}

/** What a sentence lacks to be a label's. */
function lackOf(plain: string, { amount, water, rises }: ReturnType<typeof figuresIn>): string | undefined {
	if (!amount && !water && !rises.length)
		return 'must say how much is poured, into how much water, and by how much what rises';
	if (!amount)
		return CAPFUL.test(plain)
			? 'must say what a capful holds: measure it once, and write it in mL or g'
			: 'must say how much is poured, such as 1 mL';
	if (!water) return 'must say into how much water, such as 100 L';
	if (LOWERS.test(plain) && !RAISES.test(plain))
		return 'says what it lowers: only what raises a level is poured by its label';
	if (!rises.length) return 'must say by how much it rises and in which unit, such as 0.25 dKH';
	return undefined;
}

const NOTHING_NAMED = 'must say what rises: alkalinity, calcium, magnesium, potassium';

/** All that a sentence could say; `kind` where that is more than one thing, and which number it is. */
function readingsIn(
	text: string,
	parameter?: string
): Outcome<{ readings: Label[]; kind?: 'number' | 'parameter'; written?: string }> {
	let plain = text.slice(0, LONGEST).replace(VESSEL, inVessel);
	// Blanks of the same length, so that places stay.
	for (const beside of BESIDE) plain = plain.replace(beside, (found) => ' '.repeat(found.length));
	const figures = figuresIn(plain);
	const lack = lackOf(plain, figures);
	if (lack !== undefined) return bad('', lack);
	const { rises } = figures;
	const [amount, water] = [figures.amount!, figures.water!];

	const named = rises.map((rise, i) => ({ rise, of: nameBeside(plain, rise, rises[i - 1], rises[i + 1]) }));
	const its = parameter === undefined ? [] : named.filter(({ of }) => of === parameter);
	const others = new Set(named.map(({ of }) => of));
	if (!its.length && others.size > 1) {
		const each = [...others].flatMap((other) => {
			const one = other === undefined ? undefined : readingsIn(text, other);
			return one?.ok ? one.value.readings.slice(0, 1) : [];
		});
		return each.length > 1 ? good({ readings: each, kind: 'parameter' }) : bad('', NOTHING_NAMED);
	}
	const { rise, of = parameter } = its[0] ?? named[0]!;
	if (of === undefined) return bad('', NOTHING_NAMED);

	const [sizes, values] = [meanings(amount.written), meanings(rise.written)];
	const waterL = amountIn(`${Math.max(...meanings(water.written))} ${water.unit}`, 'volume', 'L');
	if (!sizes.length || !sizes.every((size) => size > 0))
		return bad('', 'must say how much is poured, such as 1 mL');
	if (!waterL.ok) return bad('', `must say into how much water: ${waterL.problems[0]?.message ?? ''}`);
	if (!values.length || !values.every((value) => value > 0))
		return bad('', 'must say by how much it rises, such as 0.25 dKH');
	const words = rise.unit
		.replace(/\s*\/\s*/g, '/')
		.replace(/[()]|\b(?:as|of)\b/g, ' ')
		.replace(/\s+/g, ' ')
		.trim();
	const unit = isQuantity(of) ? unitIn(of, words) : words;
	if (!unit) return bad('', `is in “${rise.unit}”, which is no unit of ${nameInSentence(of)}`);
	const readings = sizes.flatMap((size) =>
		values.map((value): Label => ({
			amount: size,
			unit: /^g/i.test(amount.unit) ? 'g' : 'mL',
			waterL: waterL.value,
			raises: { parameter: of, value, unit }
		}))
	);
	return good({
		readings,
		...(readings.length > 1
			? { kind: 'number' as const, written: sizes.length > 1 ? amount.written : rise.written }
			: {})
	});
}

/** The unit that a label means; a ppm is a mg in a litre. */
const unitIn = (of: Quantity, words: string): string | null | undefined =>
	/°/.test(words)
		? 'dKH'
		: (unitNamed(of, words) ??
			unitNamed(
				of,
				words.replace(/^(?:ppm|mg ?(?:per ?)?l(?:it(?:er|re))?)/i, 'mg/L').replace(/^ppb/i, 'ug/L')
			));

/** What a rise is of: by its unit, or by the name that stands nearest to it, before or after, nearer than the rises beside it. */
function nameBeside(
	plain: string,
	rise: Figure,
	before: Figure | undefined,
	after: Figure | undefined
): ParameterId | undefined {
	if (OF_ALKALINITY.test(rise.unit)) return 'alkalinity';
	const from = before?.end ?? 0;
	const to = after?.at ?? plain.length;
	let nearest: { of: ParameterId; off: number } | undefined;
	for (const [name, of] of NAMES)
		for (const m of plain.slice(from, to).matchAll(name)) {
			const [begins, ends] = [from + m.index, from + m.index + m[0].length];
			// Inside its own unit it says what it is of: mg/L NO3.
			const off =
				begins >= rise.at && ends <= rise.end ? 0 : ends <= rise.at ? rise.at - ends : begins - rise.end;
			// After a comma or an “and” a name belongs to what follows.
			const next = begins >= rise.end && /,|;|\band\b/.test(plain.slice(rise.end, begins));
			if (!next && (!nearest || off < nearest.off)) nearest = { of, off };
		}
	return nearest?.of;
}

const namesOf = (of: string[]): string =>
	PARAMETERS.filter((p) => of.includes(p.id))
		.map((p) => nameInSentence(p.id))
		.join(', ');
