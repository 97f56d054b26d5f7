import { describe, expect, it } from 'vitest';
import { judge } from './judge';
import type { JudgeRequest, Known } from './judge-schema';
import { targets } from './schools';

const NOW = Date.parse('2026-05-06T20:00:00Z');
const ago = (days: number) => new Date(NOW - days * 86_400_000).toISOString();
type Test = Known['tests'][number];
const of = (days: number, value: number, u = 0.01 * value): Test => ({
	at: ago(days),
	value,
	standardUncertainty: u
});
const none = (days: number, below = 0.1): Test => ({ at: ago(days), below });

/** What is known of a parameter whose level is sure to a hundredth, from one test of today; `more` says otherwise. */
const known = (value: number, more: Partial<Known> & { sd?: number; days?: number } = {}): Known => {
	const { sd = 0.01 * value, days = 0, ...rest } = more;
	return {
		now: { value, standardDeviation: sd },
		netPerDay: { value: 0, standardDeviation: 0.02 },
		usePerDay: { value: 0, standardDeviation: 0.02 },
		leavesBand: null,
		moved: null,
		odd: [],
		tests: [of(days, value)],
		...rest
	};
};
const odd = (index = 0, probability = 0.6) => ({ odd: [{ index, probability }] });
const using = (value: number, standardDeviation: number) => ({ usePerDay: { value, standardDeviation } });
const soon = (edge: 'lower' | 'upper', days: number, perDay = -0.1) => ({
	leavesBand: { edge, median: ago(-days) },
	netPerDay: { value: perDay, standardDeviation: 0.02 }
});
const moved = (from: number, to: number) => ({
	moved: { at: ago(2), from, to, probability: 0.95, explanation: 'level' as const }
});

type Phase = JudgeRequest['phase'];
function judged(
	parameters: Record<string, Known>,
	phase: Phase = 'settled',
	own: Record<string, { lower: number; upper: number }> = {},
	school = 'raised levels'
) {
	const aims = targets({ school, phase, own });
	if (!aims.ok) throw new Error(JSON.stringify(aims.problems));
	const outcome = judge({ now: ago(0), phase, targets: aims.value.targets, parameters });
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value.judgements;
}
const kindsOf = (...asked: Parameters<typeof judged>) =>
	judged(...asked).map((j) => `${j.kind} ${j.parameter}`);

const quiet = (days: number[]) => ({ tests: days.map((d) => none(d)) });
const loudBefore = (days: number[], value = 2) => ({ tests: [...days.map((d) => none(d)), of(20, value)] });

/** Facts in, kinds out. Bands as raised levels has them: alkalinity 8-9.5, calcium 410-460, magnesium 1250-1400, salinity 34-36. */
const CASES: [what: string, facts: Parameters<typeof judged>, kinds: string[]][] = [
	// Where a level stands.
	['in band', [{ alkalinity: known(8.7) }], []],
	['no target, no word', [{ clarity: known(3) }], []],
	['below', [{ alkalinity: known(7) }], ['out alkalinity']],
	['above', [{ calcium: known(490) }], ['out calcium']],
	['beyond the alarm', [{ alkalinity: known(5) }], ['harm alkalinity']],
	['beyond the upper alarm', [{ alkalinity: known(13) }], ['harm alkalinity']],
	['at an edge', [{ alkalinity: known(8, { sd: 0.1 }) }], ['edge alkalinity']],
	['not known well enough', [{ alkalinity: known(8.7, { sd: 0.8 }) }], ['unknown alkalinity']],
	['just sure enough to be in', [{ alkalinity: known(8.3, { sd: 0.2 }) }], []],
	['leaving soon', [{ alkalinity: known(8.4, soon('lower', 4)) }], ['leaves-soon alkalinity']],
	[
		'by noise alone, heading nowhere',
		[
			{
				alkalinity: known(8.4, { ...soon('lower', 4), netPerDay: { value: -0.01, standardDeviation: 0.02 } })
			}
		],
		[]
	],
	['leaving, but not soon', [{ alkalinity: known(8.4, soon('lower', 20)) }], []],
	['out already: no more of leaving', [{ alkalinity: known(7, soon('lower', 0)) }], ['out alkalinity']],
	['a band from 0 has one edge', [{ nitrite: known(0, { sd: 0.02 }) }], []],
	['nothing of it, with its error', [{ phosphate: known(0.002, { sd: 0.003 }) }], ['out phosphate']],
	['warm', [{ temperature: known(27.5, { sd: 0.2 }) }], ['out temperature']],
	['hot', [{ temperature: known(30, { sd: 0.2 }) }], ['harm temperature']],
	[
		'a band of one’s own goes first',
		[{ alkalinity: known(7) }, 'settled', { alkalinity: { lower: 6.5, upper: 8 } }],
		[]
	],
	// Tests too old, or not the keeper's.
	['out, by a test of two months', [{ alkalinity: known(7, { days: 60 }) }], ['unknown alkalinity']],
	['harm, by a test of two months', [{ alkalinity: known(5, { days: 60 }) }], ['unknown alkalinity']],
	['in band, by a test of two months', [{ alkalinity: known(8.7, { days: 60 }) }], ['unknown alkalinity']],
	['in band, by a test of half a year', [{ calcium: known(430, { days: 180 }) }], ['unknown calcium']],
	['what nobody tests any more is not asked for', [{ nitrite: known(0, { sd: 0.02, days: 180 }) }], []],
	['an ion keeps for weeks', [{ magnesium: known(1200, { days: 35 }) }], ['out magnesium']],
	['a poison for days', [{ nitrite: known(2, { days: 5 }) }], ['unknown nitrite']],
	[
		'ammonia 2 ± 2, six zeros, seventy days ago',
		[{ ammonia: known(2, { sd: 1, tests: [70, 72, 74, 76, 78, 80].map((d) => of(d, 0, 0.05)) }) }],
		['unknown ammonia']
	],
	[
		'ammonia usually nothing, seventy days ago',
		[{ ammonia: known(0.02, { sd: 0.03, tests: [of(70, 0, 0.05)] }) }],
		[]
	],
	['never tested', [{ alkalinity: known(7, { tests: [] }) }], ['unknown alkalinity']],
	[
		'by a chart that is not theirs',
		[{ alkalinity: known(5, { tests: [{ ...of(0, 5), ownChart: false }] }) }],
		['unknown alkalinity']
	],
	[
		'a chart that is not theirs says nothing of a cycle',
		[
			{
				ammonia: known(0, { tests: [0, 1, 2, 3].map((d) => ({ ...of(d, 0, 0.05), ownChart: false })) }),
				nitrite: known(0, { tests: [0, 1, 2, 3].map((d) => ({ ...of(d, 0, 0.05), ownChart: false })) })
			},
			'cycling'
		],
		['unknown ammonia', 'unknown nitrite']
	],
	[
		'a test from the future counts for nothing',
		[{ alkalinity: known(5, { days: -2 }) }],
		['unknown alkalinity']
	],
	// Odd, moved.
	['odd', [{ alkalinity: known(8.7, { ...odd(), tests: [of(0, 7.2), of(7, 8.7)] }) }], ['odd alkalinity']],
	[
		'odd, and out by all the others',
		[{ alkalinity: known(7, { ...odd(), tests: [of(0, 6.1), of(7, 7)] }) }],
		['odd alkalinity', 'out alkalinity']
	],
	[
		'a morning’s pH against evenings is no slip',
		[
			{
				ph: known(8.2, {
					sd: 0.05,
					...odd(),
					tests: [of(0.5, 7.9, 0.03), of(1, 8.2, 0.03), of(2, 8.2, 0.03)]
				})
			}
		],
		[]
	],
	[
		'against mornings it may be',
		[{ ph: known(8.2, { sd: 0.05, ...odd(), tests: [of(0, 7.9, 0.03), of(1, 8.2, 0.03)] }) }],
		['odd ph']
	],
	[
		'ammonia that is dosed to feed a cycle is no slip',
		[{ ammonia: known(2, { sd: 0.2, ...odd(), tests: [of(0, 3, 0.3), of(2, 2, 0.2)] }) }, 'cycling'],
		['cycle-waits ammonia']
	],
	[
		'nothing lives in a new tank that mixes its salt',
		[{ salinity: known(12, { sd: 0.3, ...odd() }), temperature: known(18, { sd: 0.2 }) }, 'new'],
		['out salinity', 'out temperature']
	],
	['an older one is odd', [{ alkalinity: known(8.7, { ...odd(1), tests: [of(0, 8.7), of(7, 6)] }) }], []],
	['hardly odd', [{ alkalinity: known(8.7, { ...odd(0, 0.1), tests: [of(0, 8.7)] }) }], []],
	[
		'odd and alarming: an alarm is never hidden',
		[{ alkalinity: known(8.7, { ...odd(), tests: [of(0, 4.5), of(7, 8.7)] }) }],
		['harm alkalinity', 'odd alkalinity']
	],
	[
		'odd ammonia in a settled tank',
		[{ ammonia: known(0.02, { ...odd(), tests: [of(0, 2, 0.3), of(9, 0, 0.05)] }) }],
		['harm ammonia', 'odd ammonia']
	],
	[
		'an odd old alarm is old',
		[{ ammonia: known(0.02, { sd: 0.03, ...odd(), tests: [of(30, 2, 0.3)] }) }],
		['odd ammonia']
	],
	[
		'moved, and still in band',
		[{ alkalinity: known(8.2, { sd: 0.1, ...moved(9.2, 8.2) }) }],
		['moved alkalinity']
	],
	[
		'crashed: 8.4, then 6.2 twice',
		[{ alkalinity: known(6.2, { ...moved(8.4, 6.2), tests: [of(0, 6.2), of(1, 6.2), of(8, 8.4)] }) }],
		['moved alkalinity', 'out alkalinity']
	],
	['moved into harm', [{ salinity: known(28, moved(35, 28)) }], ['harm salinity', 'moved salinity']],
	[
		'tests in any order',
		[{ alkalinity: known(8.7, { ...odd(1), tests: [of(7, 8.7), of(0, 6.9)] }) }],
		['odd alkalinity']
	],
	// Poisons.
	[
		'a settled tank whose band was set while it cycled',
		[{ ammonia: known(2, { sd: 0.2 }) }, 'settled', { ammonia: { lower: 0, upper: 4 } }],
		['harm ammonia']
	],
	[
		'nitrite, the same',
		[{ nitrite: known(3, { sd: 0.2 }) }, 'young', { nitrite: { lower: 0, upper: 5 } }],
		['harm nitrite']
	],
	['while it cycles that is usual', [{ ammonia: known(2, { sd: 0.2 }) }, 'cycling'], ['cycle-waits ammonia']],
	[
		'a first ammonia that may harm by its error, beside a death',
		[{ ammonia: known(0.5, { sd: 0.15, tests: [of(0, 0.5, 0.15)] }) }],
		['harm ammonia']
	],
	['a little ammonia is out, not yet harm', [{ ammonia: known(0.3, { sd: 0.03 }) }], ['out ammonia']],
	[
		'the same in water of pH 8.6 and 29 C is',
		[
			{ ammonia: known(0.3, { sd: 0.03 }), ph: known(8.6, { sd: 0.05 }), temperature: known(29, { sd: 0.2 }) }
		],
		['harm ammonia', 'out ph', 'out temperature']
	],
	// Salinity.
	[
		'low calcium in thin water',
		[{ salinity: known(32, { sd: 0.3 }), calcium: known(392) }],
		['salinity-first salinity', 'out calcium', 'out salinity', 'order salinity']
	],
	[
		'low calcium that salt does not explain',
		[{ salinity: known(33, { sd: 0.3 }), calcium: known(365) }],
		['out calcium', 'out salinity', 'order salinity']
	],
	[
		'thin by the keeper’s own wish is not thin',
		[
			{ salinity: known(32, { sd: 0.3 }), calcium: known(415) },
			'settled',
			{ salinity: { lower: 31, upper: 33 } }
		],
		[]
	],
	[
		'too salty is its mirror',
		[{ salinity: known(38, { sd: 0.3 }), magnesium: known(1450, { sd: 5 }) }],
		['salinity-thick salinity', 'out magnesium', 'out salinity', 'order salinity']
	],
	[
		'thin water by an old test explains nothing',
		[{ salinity: known(32, { sd: 0.3, days: 40 }), calcium: known(392) }],
		['out calcium', 'unknown salinity']
	],
	[
		'thin water by an odd test explains nothing',
		[{ salinity: known(32, { sd: 0.3, ...odd() }), calcium: known(392) }],
		['odd salinity', 'order salinity', 'out calcium', 'out salinity']
	],
	[
		'water of 0.24 PSU is no sea water and promises nothing',
		[{ salinity: known(0.24, { sd: 0.05 }), calcium: known(300) }],
		['harm calcium', 'harm salinity', 'order salinity']
	],
	[
		'potassium has its place in the order',
		[{ potassium: known(360, { sd: 4 }), nitrate: known(25, { sd: 1 }), calcium: known(380) }],
		['out calcium', 'out potassium', 'out nitrate', 'order calcium']
	],
	// Order.
	[
		'two that are low',
		[{ magnesium: known(1180, { sd: 8 }), alkalinity: known(7) }],
		['out magnesium', 'out alkalinity', 'order magnesium']
	],
	['one that is low', [{ magnesium: known(1180, { sd: 8 }) }], ['out magnesium']],
	// Use in step.
	[
		'calcium not used in step',
		[{ alkalinity: known(8.7, using(0.7, 0.05)), calcium: known(430, using(1, 0.4)) }],
		['ratio calcium']
	],
	['used in step', [{ alkalinity: known(8.7, using(0.7, 0.05)), calcium: known(430, using(5.2, 0.4)) }], []],
	[
		'use not known well enough',
		[{ alkalinity: known(8.7, using(0.7, 0.5)), calcium: known(430, using(1, 0.4)) }],
		[]
	],
	[
		'use by an old test',
		[{ alkalinity: known(8.7, using(0.7, 0.05)), calcium: known(430, { ...using(1, 0.4), days: 50 }) }],
		['unknown calcium']
	],
	// Swings.
	['a swing', [{ alkalinity: known(8.7, { tests: [of(0, 8.7), of(1, 9.9)] }) }], ['swing alkalinity']],
	[
		'what was dosed between is no swing',
		[
			{
				alkalinity: known(8.7, {
					tests: [of(0, 8.7), of(1, 7.5)],
					recorded: [
						{ at: ago(0.5), change: 1.1 },
						{ at: ago(3), change: 5 }
					]
				})
			}
		],
		[]
	],
	[
		'a dose that does not explain it',
		[
			{
				alkalinity: known(8.7, { tests: [of(0, 8.7), of(1, 7.5)], recorded: [{ at: ago(0.5), change: 0.1 }] })
			}
		],
		['swing alkalinity']
	],
	['within both errors', [{ alkalinity: known(8.7, { tests: [of(0, 8.7, 0.4), of(1, 9.5, 0.4)] }) }], []],
	['within what is healthy', [{ calcium: known(430, { tests: [of(0, 430), of(1, 445)] }) }], []],
	['a week apart', [{ alkalinity: known(8.7, { tests: [of(0, 8.7), of(7, 9.9)] }) }], []],
	[
		'pH by day and by night',
		[{ ph: known(8.2, { sd: 0.05, tests: [of(0, 8.2, 0.03), of(0.5, 7.8, 0.03)] }) }],
		[]
	],
	[
		'pH at the same hour',
		[{ ph: known(8.2, { sd: 0.05, tests: [of(0, 8.2, 0.03), of(1, 7.8, 0.03)] }) }],
		['swing ph']
	],
	[
		'a poison that falls fast heals',
		[{ nitrite: known(0.02, { sd: 0.02, tests: [of(0, 0.02, 0.02), of(1, 0.9, 0.05)] }) }],
		[]
	],
	[
		'a hot tank that cools fast heals',
		[{ temperature: known(25.5, { sd: 0.1, tests: [of(0, 25.5, 0.1), of(1, 28, 0.1)] }) }],
		[]
	],
	[
		'an odd test is no swing',
		[{ alkalinity: known(8.7, { ...odd(), tests: [of(0, 7.5), of(1, 8.7)] }) }],
		['odd alkalinity']
	],
	// Long at nothing.
	[
		'nitrate at nothing for a month',
		[{ nitrate: known(2.3, { sd: 0.1, tests: [0, 15, 30].map((d) => none(d, 0.5)) }) }],
		['long-zero nitrate']
	],
	['for two weeks', [{ nitrate: known(2.3, { sd: 0.1, tests: [0, 7, 14].map((d) => none(d, 0.5)) }) }], []],
	[
		'with some in between',
		[{ nitrate: known(2.3, { sd: 0.1, tests: [none(0, 0.5), of(15, 4), none(30, 0.5)] }) }],
		[]
	],
	[
		'while it cycles',
		[{ nitrate: known(2.3, { sd: 0.1, tests: [0, 15, 30].map((d) => none(d, 0.5)) }) }, 'cycling'],
		[]
	],
	// The cycle.
	[
		'over',
		[
			{
				ammonia: known(0.02, loudBefore([0, 2, 4])),
				nitrite: known(0.02, quiet([0, 2, 4])),
				nitrate: known(6)
			},
			'cycling'
		],
		['cycle-over ammonia']
	],
	[
		'over by a card whose first step is 0.25: the best that it can say',
		[
			{
				ammonia: known(0.02, { tests: [none(0, 0.25), none(2, 0.25), none(4, 0.25), of(20, 2)] }),
				nitrite: known(0.02, { tests: [none(0, 0.25), none(2, 0.25), none(4, 0.25), of(15, 1)] })
			},
			'cycling'
		],
		['cycle-over ammonia']
	],
	[
		'nitrate that rises while it cycles is no jump',
		[
			{
				nitrate: known(20, {
					moved: { from: 5, to: 20, at: ago(1), probability: 0.99, explanation: 'level' },
					tests: [of(0, 20), of(12, 5)]
				})
			},
			'cycling'
		],
		[]
	],
	[
		'not over: nitrite was never tested',
		[{ ammonia: known(0.02, loudBefore([0, 2, 4])), nitrate: known(6) }, 'cycling'],
		['cycle-waits ammonia']
	],
	[
		'not begun: nitrate came with the water',
		[
			{
				ammonia: known(0.02, quiet([0, 2, 4])),
				nitrite: known(0.02, quiet([0, 2, 4])),
				nitrate: known(6)
			},
			'cycling'
		],
		['cycle-waits ammonia']
	],
	[
		'not over: three tests of one day',
		[{ ammonia: known(0.02, loudBefore([0, 0.1, 0.2])) }, 'cycling'],
		['cycle-waits ammonia']
	],
	[
		'not over: nitrite is still there',
		[{ ammonia: known(0.02, loudBefore([0, 2, 4])), nitrite: known(1, { tests: [of(0, 1)] }) }, 'cycling'],
		['cycle-waits ammonia']
	],
	[
		'not begun: there never was any',
		[{ ammonia: known(0.02, quiet([0, 2, 4])) }, 'cycling'],
		['cycle-waits ammonia']
	],
	[
		'its last tests are old',
		[
			{ ammonia: known(0.02, loudBefore([10, 12, 14])), nitrite: known(0.02, quiet([10, 12, 14])) },
			'cycling'
		],
		['cycle-waits ammonia', 'unknown ammonia', 'unknown nitrite']
	],
	[
		'a settled tank has no cycle',
		[{ ammonia: known(0.02, { ...loudBefore([0, 2, 4]), sd: 0.02 }) }, 'settled'],
		[]
	],
	[
		'a young tank neither',
		[{ ammonia: known(0.02, { ...loudBefore([0, 2, 4]), sd: 0.02 }), nitrate: known(6) }, 'young'],
		[]
	],
	['nothing known of anything', [{}], []]
];

describe('judge', () => {
	it.each(CASES)('%s', (_, facts, kinds) => {
		expect([...kindsOf(...facts)].sort()).toEqual([...kinds].sort());
	});

	it('says the worst first, and what explains before what it explains', () => {
		const all = judged({
			salinity: known(28, { sd: 0.3 }),
			calcium: known(392),
			alkalinity: known(8.7, { ...odd(), tests: [of(0, 7.2)] })
		});
		expect(all.map((j) => j.kind)).toEqual(
			['harm', 'salinity-first', 'odd', 'out', 'order'].filter((k) => all.some((j) => j.kind === k))
		);
		expect(all.map((j) => j.rank)).toEqual([...all.map((j) => j.rank)].sort());
		expect(
			judged({ salinity: known(32, { sd: 0.3 }), calcium: known(392) })
				.map((j) => j.kind)
				.slice(0, 2)
		).toEqual(['salinity-first', 'out']);
	});

	it('carries its chance, and asks for a test first where it rests on one', () => {
		const first = (facts: Record<string, Known>) => judged(facts)[0]!;
		const twice = { tests: [of(0, 5), of(1, 5.1)] };
		expect(first({ alkalinity: known(5) }).helps).toBe('test');
		expect(first({ alkalinity: known(5, twice) }).helps).toBe('look');
		expect(first({ alkalinity: known(7) }).helps).toBe('test');
		expect(first({ alkalinity: known(7, { tests: [of(0, 7), of(3, 7.1)] }) }).helps).toBe('look');
		// One of last spring is no second.
		expect(first({ alkalinity: known(7, { tests: [of(0, 7), of(90, 7.1)] }) }).helps).toBe('test');
		const sure = (sd: number) => first({ alkalinity: known(5.7, { sd, ...twice }) }).numbers['sure'];
		expect(sure(0.05)).toBeGreaterThan(0.98);
		// Half a standard deviation beyond the alarm: about 0.69.
		expect(sure(0.6)).toBeGreaterThan(0.65);
		expect(sure(0.6)).toBeLessThan(0.73);
	});

	it('says carbon dioxide where pH is low and alkalinity is fine', () => {
		const ph = known(7.6, { sd: 0.05, tests: [of(0, 7.6, 0.05), of(1, 7.6, 0.05)] });
		const cause = (alkalinity: Known) =>
			judged({ ph, alkalinity }).find((j) => j.parameter === 'ph')!.numbers['cause'];
		expect(cause(known(8.7))).toBe('carbon dioxide');
		expect(cause(known(7))).toBeUndefined();
	});

	it('gives a pace only where haste harms', () => {
		const pace = (facts: Record<string, Known>) => judged(facts)[0]!.numbers['healthyPerDay'];
		expect(pace({ alkalinity: known(7) })).toBe(0.5);
		expect(pace({ nitrite: known(0.5, { sd: 0.05 }) })).toBeUndefined();
		expect(pace({ temperature: known(28, { sd: 0.1 }) })).toBeUndefined();
		expect(pace({ temperature: known(22, { sd: 0.1 }) })).toBe(1);
	});

	it('reckons what calcium would be at the keeper’s own salinity, in the unit it is kept in', () => {
		const salinity: Known = { ...known(1.0237, { sd: 0.0002 }), unit: 'SG 25/25' };
		const [first] = judged({ salinity, calcium: known(398) });
		expect(first!.kind).toBe('salinity-first');
		// 35 PSU is 1.0264; 1.0237 is about 31.4 PSU: up by a ninth.
		expect(first!.numbers['wanted']).toBeCloseTo(1.0264, 3);
		expect(first!.numbers['calcium']).toBeGreaterThan(435);
		expect(first!.numbers['calcium']).toBeLessThan(450);
	});

	it('says how large a change brings nitrate home after a cycle', () => {
		const over = judged(
			{
				ammonia: known(0.02, loudBefore([0, 2, 4])),
				nitrite: known(0.02, quiet([0, 2, 4])),
				nitrate: known(60)
			},
			'cycling'
		).find((j) => j.kind === 'cycle-over');
		// Raised levels has nitrate at 6, and up to 15: a quarter of 60.
		expect(over!.numbers['change']).toBeCloseTo(0.75);
	});
});

it('says that a kit is too coarse to tell the end of a cycle', () => {
	const coarse = [0, 2, 4].map((d) => none(d, 1));
	const facts = {
		ammonia: known(0.3, { tests: [...coarse, of(20, 4)] }),
		nitrite: known(0.02, quiet([0, 2, 4]))
	};
	const waits = judged(facts, 'cycling').find((j) => j.kind === 'cycle-waits');
	expect(waits?.numbers).toMatchObject({ reason: 'coarse', coarse: 'ammonia', below: 1 });
});
