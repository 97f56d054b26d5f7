import { nth } from '../base';
import { PARAMETER_WORDS, UNIT_WORDS } from '../quick';
import { UNITS } from '../quantities';
import { parameterOf, type ParameterId, PARAMETERS, lexicon } from '../catalogue';
import { parseDate, parseTime, type DateOrder } from './sheet-dates';

/** In place of a unit: the sheet says one that is not understood, and a person has to. Nothing is taken before. */
export const ASKED = '?';

/**
 * What a column of a sheet holds. A value's parameter stands in its header, or (null) in another column; its unit too. `sort`: whether the row is a
 * test or something else.
 */
export type Meaning =
	| { kind: 'skip' }
	| { kind: 'date' }
	| { kind: 'time' }
	| { kind: 'parameter' }
	| { kind: 'sort' }
	| { kind: 'unit' }
	| { kind: 'water' }
	| { kind: 'note' }
	| { kind: 'bound' }
	| { kind: 'value'; parameter: ParameterId | null; unit: string | null };

/** Header words of the languages in which such sheets are kept: English, German, French, Dutch, Spanish. */
const WORDS: Record<Exclude<Meaning['kind'], 'skip' | 'value'> | 'result', string[]> = {
	date: ['date', 'day', 'when', 'datum', 'tag', 'datetime', 'timestamp', 'jour', 'fecha', 'data', 'dato'],
	time: ['time', 'hour', 'clock', 'uhrzeit', 'zeit', 'heure', 'tijd', 'hora'],
	parameter: ['parameter', 'test', 'element', 'measured', 'what', 'analyte', 'paramètre', 'parámetro'],
	sort: ['type', 'kind', 'action', 'event', 'category', 'entry', 'typ', 'art', 'aktion'],
	unit: ['unit', 'units', 'einheit', 'unité', 'eenheid', 'unidad'],
	water: ['water', 'source', 'sample', 'probe', 'eau', 'agua'],
	note: [
		'note',
		'notes',
		'comment',
		'comments',
		'remark',
		'remarks',
		'bemerkung',
		'notiz',
		'remarque',
		'nota'
	],
	bound: ['bound', 'qualifier', 'sign'],
	result: [
		'value',
		'result',
		'reading',
		'wert',
		'ergebnis',
		'messwert',
		'valeur',
		'waarde',
		'valor',
		'measurement'
	]
};

/** What other languages and habits call parameters, beside the words of the quick line. */
const MORE_PARAMETERS = lexicon<ParameterId>(
	Object.fromEntries(PARAMETERS.flatMap(({ id, wordsElsewhere }) => wordsElsewhere.map((word) => [word, id])))
);

/**
 * Words that make a column or a row of a parameter no test of the tank's water: what was poured, what was wanted, what follows from tests, and
 * other waters (English, German, French).
 */
const NO_TEST = new Set(
	`dose doses dosed dosing dosage added add addition adds poured supplement ml drops
	target targets goal ideal wanted min minimum max maximum limit limits lower upper alarm
	consumption consumed use used usage uptake demand delta Δ change diff difference offset correction factor rate
	average avg mean median trend slope forecast prediction error uncertainty sd stdev
	dosis dosierung dosiert zugabe zugegeben tropfen soll ziel grenze verbrauch differenz änderung korrektur faktor mittel mittelwert
	durchschnitt unsicherheit objectif cible ajout ajouté consommation écart moyenne
	tap ro rodi osmosis nsw mix saltmix ato topup reservoir qt quarantine new source fresh
	leitung leitungswasser osmose osmosewasser mischwasser frischwasser ausgangswasser quarantäne robinet osmosée`.split(
		/\s+/
	)
);
const EACH_DAY = /\bper day\b|\bpro tag\b|\bpar jour\b|\/ ?(?:d|day|tag|jour)\b/;

/**
 * Whether words say that a column, or a row, is no test of the tank.
 *
 * @example isNoTest('KH dose (mL)') // → true
 */
export function isNoTest(text: string): boolean {
	const words = plain(text);
	return (
		EACH_DAY.test(words) ||
		words.split(/[^\p{L}\p{N}]+/u).some((word) => NO_TEST.has(word)) ||
		/[Δ±]/i.test(words)
	);
}

/** Headers and the names of parameters and units end within this, characters. */
const LONGEST_WORDS = 80;

/** A header or a cell in plain small letters: "NO₃-N [mg/L]" becomes "no3-n mg/l". */
export const plain = (text: string): string =>
	text
		.trim()
		.slice(0, LONGEST_WORDS)
		.toLowerCase()
		.replaceAll(/[µμ]/g, 'u')
		.replace(/[₀-₉]/g, (c) => String(c.charCodeAt(0) - 0x2080))
		.replace(/[()[\]{}_,:;*]/g, ' ')
		.replace(/\s+/g, ' ')
		.trim();

/**
 * The parameter and the unit that a few words name: null where they say none, `ASKED` where they say one that is not understood. Nothing where
 * they name something that is no test.
 */
export function parameterIn(text: string): { parameter: ParameterId; unit: string | null } | undefined {
	return isNoTest(text) ? undefined : namedIn(text);
}

/** The same, of tests and of what is none. */
export function namedIn(text: string): { parameter: ParameterId; unit: string | null } | undefined {
	const words = plain(text).split(' ');
	for (const [i, word] of words.entries()) {
		const stem = stemOf(word);
		const parameter = parameterOfWord(stem);
		if (!parameter) continue;
		const rest = words.filter((_, k) => k !== i);
		const tail = word === stem ? [] : [word.slice(-1)];
		// "Nitrate NO3 mg/L": the name once more is no unit.
		const others = rest.filter((w) => parameterOfWord(w) !== parameter && !FILLING.has(w));
		const unit =
			unitOfWords(parameter, [...rest, ...tail]) ??
			unitOfWords(parameter, [...others, ...tail]) ??
			unitOfWords(parameter, [word, ...others]);
		if (unit) return { parameter, unit };
		if (tail.length || others.some(isLikeUnit)) return { parameter, unit: ASKED };
		return {
			parameter,
			unit: parameterOf(parameter)!.unitSaid[stem] ?? (others.length ? null : unitIn(parameter, word))
		};
	}
	return undefined;
}
const stemOf = (word: string): string => word.replace(/-[np]$/, '');
const parameterOfWord = (word: string): ParameterId | undefined =>
	PARAMETER_WORDS[word] ?? MORE_PARAMETERS[word];
/** Words that say nothing of a unit. */
const FILLING = new Set(['as', 'in', 'of', 'als', 'en', 'total', 'level', 'value', 'test']);
/** A word of the kind that units are made of. */
const isLikeUnit = (word: string): boolean =>
	/[/%‰°]/.test(word) ||
	/^(?:pp[mbt]|psu|[mu]?g|kg|[mu]?mol|[mu]?eq|m?val|d[kg]?h|caco3|cao|co3|[mu]s|sg|no[23]|nh[34]|po4|sio2|[npcfl]|si|m3|(?:no[23]|nh[34]|po4|sio2)-\w+)$/.test(
		word
	);
/** How much comes before of what. */
const unitOfWords = (parameter: ParameterId, words: string[]): string | null => {
	const amount = (w: string) => /^pp[mbt]$|\//.test(w);
	const inOrder = [...words.filter(amount), ...words.filter((w) => !amount(w))];
	return unitIn(parameter, words.join(' ')) ?? unitIn(parameter, inOrder.join(' '));
};

/** The unit that words name for a parameter, or null: also where they could name two. */
export function unitIn(parameter: ParameterId, text: string): string | null {
	const words = plain(text);
	if (words === '') return null;
	const exact = UNITS[parameter].find((u) => plain(u.name) === words);
	return exact?.name ?? UNIT_WORDS[parameter][words] ?? null;
}

/** What a header says its column holds. */
export function meaningOf(header: string): Meaning {
	const words = plain(header).split(/[ /]/);
	for (const [kind, known] of Object.entries(WORDS))
		if (known.includes(nth(words, 0)) || (words.length <= 2 && known.some((w) => words.includes(w)))) {
			if (kind !== 'result') return { kind } as Exclude<Meaning, { kind: 'value' }>;
			return isNoTest(header) ? { kind: 'skip' } : { kind: 'value', parameter: null, unit: null };
		}
	const found = parameterIn(header);
	return found ? { kind: 'value', ...found } : { kind: 'skip' };
}

/** The share of filled cells for which something holds. */
const share = (cells: string[], holds: (cell: string) => boolean): number => {
	const filled = cells.filter((c) => c.trim() !== '');
	return filled.length ? filled.filter(holds).length / filled.length : 0;
};
/** Most of a column's cells agree on what they are, or it is something else. */
const MOST = 0.7;

/** What a column without a header holds, as far as its cells tell. */
export function meaningByCells(cells: string[]): Meaning {
	if (share(cells, (c) => parseDate(c, 'dmy') !== undefined || parseDate(c, 'mdy') !== undefined) >= MOST)
		return { kind: 'date' };
	if (share(cells, (c) => parseTime(c) !== undefined) >= MOST) return { kind: 'time' };
	if (share(cells, (c) => !/^\d/.test(c) && parameterIn(c) !== undefined) >= MOST)
		return { kind: 'parameter' };
	if (share(cells, isUnit) >= MOST) return { kind: 'unit' };
	if (share(cells, (c) => /^[<>~≤≥]?\s{0,3}[-+]?[.,]?\d/.test(c.trim())) >= MOST)
		return { kind: 'value', parameter: null, unit: null };
	return { kind: 'skip' };
}
const isUnit = (cell: string): boolean =>
	Object.values(UNIT_WORDS).some((words) => Object.hasOwn(words, plain(cell)));

/** The unit a parameter's values are most likely in, by their size, where nothing says. `sure` is false where another would do as well. */
export function unitBySize(parameter: ParameterId, values: number[]): { unit: string; sure: boolean } {
	const { unit, unitBySize: sizes } = parameterOf(parameter)!;
	const middle = [...values].sort((a, b) => a - b)[values.length >> 1];
	const found = sizes.find(({ from, to }) => middle !== undefined && middle > from && middle < to);
	return found ? { unit: found.unit, sure: found.sure } : { unit, sure: true };
}

/** How a sheet is to be understood. */
export interface SheetLayout {
	/** The row with the headers, counted from 0; null: there is none. */
	headerRow: number | null;
	decimal: '.' | ',';
	order: DateOrder;
	/** The hour of the tank's day that stands for tests without one. */
	hour: number;
	columns: Meaning[];
	/** Units by parameter, where neither a header nor a cell says one. */
	units: Partial<Record<ParameterId, string>>;
	/** What lies far outside what such water has is not taken. */
	leaveOdd?: boolean;
}
