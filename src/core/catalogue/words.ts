/** Words and what they mean, and nothing else: “constructor” is none of them. */
export const lexicon = <T>(words: Record<string, T>): Record<string, T> =>
	Object.assign(Object.create(null) as Record<string, T>, words);

/** Units of what is dissolved, as people type them. */
export const PER_LITRE = {
	'mg/l': 'mg/L',
	ppm: 'mg/L',
	'ug/l': 'ug/L',
	ppb: 'ug/L',
	'mmol/l': 'mmol/L',
	mmol: 'mmol/L',
	'umol/l': 'umol/L'
};

/** Units of an oxide of nitrogen, as people type them. */
export function nitrogenWords(formula: 'NO3' | 'NO2'): Record<string, string> {
	const word = formula.toLowerCase();
	const whole = `mg/L ${formula}`;
	const part = `mg/L ${formula}-N`;
	return {
		'mg/l': whole,
		ppm: whole,
		[word]: whole,
		[`ppm ${word}`]: whole,
		[`mg/l ${word}`]: whole,
		n: part,
		'as n': part,
		'ppm n': part,
		'mg/l n': part,
		[`${word}-n`]: part,
		[`ppm ${word}-n`]: part,
		[`mg/l ${word}-n`]: part,
		'umol/l': 'umol/L'
	};
}
