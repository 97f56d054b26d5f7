/** A supplement of one's own making. */
export const SODA = {
	format: 'tevrik.supplement/1',
	id: 'soda',
	name: 'Soda, home-made',
	kind: 'solution',
	composition: { recipe: { salt: 'NaHCO3', gramsPerL: 80 } }
};
/** A request of each calculation that is answered: the API's page shows it, and `./tevrik calc` can be tried with it. */
export const CALCULATION_EXAMPLES: Record<string, unknown> = {
	convert: { quantity: 'alkalinity', value: 145, from: 'ppm CaCO3', to: 'dKH' },
	seawater: { salinity: { value: 1.026, unit: 'SG 25/25' }, temperatureC: 25 },
	colour: {
		patches: [
			{ value: 0, samples: Array.from({ length: 30 }, (_, i) => [232, 228 + (i % 3), 224]) },
			{ value: 5, samples: Array.from({ length: 30 }, (_, i) => [226, 196 + (i % 3), 205]) },
			{ value: 10, samples: Array.from({ length: 30 }, (_, i) => [219, 168 + (i % 3), 188]) },
			{ value: 25, samples: Array.from({ length: 30 }, (_, i) => [205, 122 + (i % 3), 160]) }
		],
		white: Array.from({ length: 30 }, (_, i) => [236, 233 + (i % 3), 229]),
		vial: { samples: Array.from({ length: 30 }, (_, i) => [222, 180 + (i % 3), 196]) }
	},
	plunger: {
		rows: Array.from({ length: 150 }, (_, i) =>
			Array.from({ length: 5 }, () => (i < 72 ? 190 : i < 84 ? 40 : 150))
		),
		from: -0.1,
		to: 1.1,
		fillMl: 1,
		graduationMl: 0.02
	},
	titration: {
		analyte: 'alkalinity',
		water: { alkalinity: 8.2 },
		sampleMl: 6,
		titrant: { molar: 0.036 },
		light: 'blue tank lamp',
		additions: [
			{ ml: 0.4, seconds: 20, swirl: 1 },
			{ ml: 0.012, seconds: 1 },
			{ ml: 0, seconds: 3, swirl: 1 }
		]
	},
	hand: {
		endPoints: [0.4, 0.9, 0.2, 1.3, 0.6, 0.7, 0.3, 1.1, 0.5, 0.8].map((over) => ({
			instrument: 'syringe',
			parameter: 'alkalinity',
			light: 'daylight',
			over
		})),
		plungers: [{ off: 0.3 }, { off: -0.2 }, { off: 0.4 }],
		looks: [
			{ parameter: 'nitrate', light: 'daylight', steps: 1.2, right: true },
			{ parameter: 'nitrate', light: 'daylight', steps: 0.4, right: false }
		]
	},
	leaflet: {
		words: [1, 0.9, 0.8, 0.7].flatMap((left, i) => [
			{ text: left.toFixed(2), confidence: 96, box: [100, 50 + 30 * i, 150, 70 + 30 * i] },
			{ text: (1.7 * i).toFixed(1), confidence: 95, box: [220, 50 + 30 * i, 262, 70 + 30 * i] }
		])
	},
	chart: {
		parameter: 'alkalinity',
		unit: 'dKH',
		reads: 'syringe',
		points: [
			[1, 0],
			[0.5, 8.4],
			[0.2, 13.4]
		]
	},
	bench: {
		tests: [
			{
				id: 'a',
				steps: [
					{ label: 'shake', hands: 60, then: { wait: 300 } },
					{ label: 'read', hands: 20 }
				]
			},
			{ id: 'b', steps: [{ label: 'titrate', hands: 200 }] }
		]
	},
	trend: {
		parameter: 'alkalinity',
		unit: 'dKH',
		readings: [
			{ at: '2026-05-01T19:00:00Z', value: 8.3, standardUncertainty: 0.15 },
			{ at: '2026-05-05T19:00:00Z', value: 8.1, standardUncertainty: 0.15 },
			{ at: '2026-05-09T19:00:00Z', value: 8.0, standardUncertainty: 0.15 }
		],
		band: { lower: 7.5, upper: 9 },
		now: '2026-05-10T19:00:00Z'
	},
	targets: { school: 'natural levels', phase: 'settled', own: {} },
	dose: {
		supplement: SODA,
		volume: { value: 200, standardUncertainty: 15 },
		change: { parameter: 'alkalinity', value: 1, unit: 'dKH' }
	},
	blend: {
		waters: [
			{ id: 'tap', values: { hardness: 18, alkalinity: 12 } },
			{ id: 'purified', values: { hardness: 0, alkalinity: 0 } }
		],
		target: { hardness: 6 },
		litres: 90
	},
	correct: {
		now: '2026-05-10T19:00:00Z',
		days: 14,
		water: { volumeL: { value: 200, standardUncertainty: 15 }, salinity: 35, temperatureC: 25 },
		parameters: [
			{
				parameter: 'alkalinity',
				unit: 'dKH',
				now: { mean: 7.1, standardDeviation: 0.12 },
				usePerDay: { mean: 0.2, standardDeviation: 0.03 },
				band: { lower: 8, upper: 9.5 },
				healthyPerDay: { up: 0.5, down: 0.5 }
			}
		],
		dosing: [],
		supplements: [SODA],
		prefer: 'soonest'
	},
	'net-volume': {
		added: { value: 200, standardUncertainty: 4 },
		before: { value: 7.1, standardUncertainty: 0.1 },
		after: { value: 8.1, standardUncertainty: 0.1 },
		days: 1,
		netPerDay: { value: -0.1, standardUncertainty: 0.02 }
	},
	reference: {
		reference: { parameter: 'alkalinity', unit: 'dKH', value: 8, standardUncertainty: 0.05 },
		tests: [
			{ at: '2026-05-10T19:00:00Z', value: 8.5, repeatability: 0.1 },
			{ at: '2026-05-10T19:10:00Z', value: 8.6, repeatability: 0.1 }
		],
		prior: { trueness: 0.25 }
	},
	compare: {
		pairs: [
			{
				a: { value: 7.9, standardUncertainty: 0.25, repeatability: 0.1 },
				b: { value: 8.5, standardUncertainty: 0.25, repeatability: 0.1 }
			}
		]
	},
	scorecard: {
		methods: [
			{ id: 'syringe', times: [{ hands: 180, wait: 0 }], pack: { tests: 90, price: 18 }, errors: [0.2] },
			{ id: 'drops', times: [{ hands: 90, wait: 0 }], pack: { tests: 50, price: 15 }, errors: [0.5] }
		]
	},
	waters: {
		a: {
			salinity: { value: 35, standardUncertainty: 0.3 },
			calcium: { value: 430, standardUncertainty: 8 },
			magnesium: { value: 1280, standardUncertainty: 25 }
		}
	},
	'low-ph': { ph: 7.75, alkalinity: 8, salinity: 35, temperatureC: 25 },
	reading: {
		method: {
			format: 'tevrik.method/1',
			id: 'alk-drops',
			name: 'Alkalinity, drops',
			parameter: 'alkalinity',
			unit: 'dKH',
			reads: 'drops',
			scale: { kind: 'linear', perDrop: 0.5 }
		},
		reading: { drops: 17 }
	}
};
