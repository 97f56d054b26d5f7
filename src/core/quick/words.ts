import type { ParameterId, Quantity } from '../quantities';

/** Words and what they mean, and nothing else: “constructor” is none of them. */
export const lexicon = <T>(words: Record<string, T>): Record<string, T> =>
	Object.assign(Object.create(null) as Record<string, T>, words);

/** What keepers call their parameters, in lower case. */
export const PARAMETER_WORDS = lexicon<ParameterId>({
	alk: 'alkalinity',
	alkalinity: 'alkalinity',
	kh: 'alkalinity',
	dkh: 'alkalinity',
	ca: 'calcium',
	calcium: 'calcium',
	mg: 'magnesium',
	magnesium: 'magnesium',
	k: 'potassium',
	potassium: 'potassium',
	no3: 'nitrate',
	nitrate: 'nitrate',
	no2: 'nitrite',
	nitrite: 'nitrite',
	nh3: 'ammonia',
	nh4: 'ammonia',
	ammonia: 'ammonia',
	ammonium: 'ammonia',
	po4: 'phosphate',
	phosphate: 'phosphate',
	phosphorus: 'phosphate',
	sg: 'salinity',
	sal: 'salinity',
	salinity: 'salinity',
	cond: 'salinity',
	conductivity: 'salinity',
	ph: 'ph',
	t: 'temperature',
	temp: 'temperature',
	temperature: 'temperature',
	gh: 'hardness',
	hardness: 'hardness',
	sr: 'strontium',
	strontium: 'strontium',
	iodine: 'iodine',
	iodide: 'iodine',
	fe: 'iron',
	iron: 'iron',
	si: 'silicate',
	sio2: 'silicate',
	silicate: 'silicate'
});

const PER_LITRE = lexicon<string | null>({
	'mg/l': 'mg/L',
	ppm: 'mg/L',
	'ug/l': 'ug/L',
	ppb: 'ug/L',
	'mmol/l': 'mmol/L',
	mmol: 'mmol/L',
	'umol/l': 'umol/L'
});

/** Unit words after a number, by parameter. `null`: could mean two units, and the keeper has to say which. */
export const UNIT_WORDS: Record<ParameterId, Record<string, string | null>> = {
	alkalinity: lexicon({
		dkh: 'dKH',
		'°dkh': 'dKH',
		kh: 'dKH',
		'°': 'dKH',
		'meq/l': 'meq/L',
		meq: 'meq/L',
		ppm: 'ppm CaCO3',
		'mg/l': 'ppm CaCO3',
		caco3: 'ppm CaCO3',
		'ppm caco3': 'ppm CaCO3',
		'mg/l caco3': 'ppm CaCO3'
	}),
	hardness: lexicon({
		dgh: 'dGH',
		gh: 'dGH',
		ppm: 'ppm CaCO3',
		'mg/l': 'ppm CaCO3',
		'ppm caco3': 'ppm CaCO3',
		'meq/l': 'meq/L'
	}),
	calcium: PER_LITRE,
	magnesium: PER_LITRE,
	potassium: PER_LITRE,
	strontium: PER_LITRE,
	iodine: PER_LITRE,
	iron: PER_LITRE,
	silicate: PER_LITRE,
	nitrate: nitrogen('NO3', 'no3'),
	nitrite: nitrogen('NO2', 'no2'),
	ammonia: lexicon({
		'mg/l': 'mg/L NH4',
		ppm: 'mg/L NH4',
		nh4: 'mg/L NH4',
		'ppm nh4': 'mg/L NH4',
		'mg/l nh4': 'mg/L NH4',
		nh3: 'mg/L NH3',
		'ppm nh3': 'mg/L NH3',
		'mg/l nh3': 'mg/L NH3',
		n: 'mg/L NH-N',
		'as n': 'mg/L NH-N',
		'ppm n': 'mg/L NH-N',
		'mg/l n': 'mg/L NH-N',
		'nh4-n': 'mg/L NH-N',
		'ppm nh4-n': 'mg/L NH-N',
		'mg/l nh4-n': 'mg/L NH-N',
		'nh3-n': 'mg/L NH-N',
		'ppm nh3-n': 'mg/L NH-N',
		'mg/l nh3-n': 'mg/L NH-N'
	}),
	phosphate: lexicon({
		'mg/l': 'mg/L PO4',
		ppm: 'mg/L PO4',
		po4: 'mg/L PO4',
		'ppm po4': 'mg/L PO4',
		'mg/l po4': 'mg/L PO4',
		'po4-p': 'mg/L PO4-P',
		'ppm po4-p': 'mg/L PO4-P',
		'mg/l po4-p': 'mg/L PO4-P',
		'ppb po4-p': 'ug/L P',
		'ug/l po4-p': 'ug/L P',
		'ppm p': 'mg/L PO4-P',
		'mg/l p': 'mg/L PO4-P',
		'ppb p': 'ug/L P',
		'ug/l p': 'ug/L P',
		'ppb po4': 'ug/L PO4',
		'ug/l po4': 'ug/L PO4',
		ppb: null,
		'ug/l': null,
		p: null,
		'umol/l': 'umol/L'
	}),
	salinity: lexicon({
		psu: 'PSU',
		ppt: 'PSU',
		'‰': 'PSU',
		sg: 'SG 25/25',
		ms: 'mS/cm 25C',
		'ms/cm': 'mS/cm 25C'
	}),
	ph: lexicon({ ph: 'pH' }),
	temperature: lexicon({ c: 'C', '°c': 'C', f: 'F', '°f': 'F' })
};

/** Unit words of what is no parameter: water, powders, glass. Where a gallon is not said to be another it is a US one. */
export const AMOUNT_WORDS = {
	volume: {
		l: 'L',
		litre: 'L',
		litres: 'L',
		liter: 'L',
		liters: 'L',
		ml: 'mL',
		gal: 'US gal',
		gallon: 'US gal',
		gallons: 'US gal',
		'us gallons': 'US gal',
		'uk gallons': 'UK gal',
		'imperial gallons': 'UK gal',
		'imp gal': 'UK gal'
	},
	mass: { g: 'g', gram: 'g', grams: 'g', kg: 'kg', oz: 'oz', lb: 'lb', lbs: 'lb', pounds: 'lb' },
	length: { cm: 'cm', mm: 'mm', m: 'm', in: 'in', inch: 'in', inches: 'in', ft: 'ft', feet: 'ft' }
} satisfies Partial<Record<Quantity, Record<string, string>>>;

function nitrogen(formula: 'NO3' | 'NO2', word: string): Record<string, string | null> {
	const whole = `mg/L ${formula}`;
	const part = `mg/L ${formula}-N`;
	return lexicon<string | null>({
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
	});
}
