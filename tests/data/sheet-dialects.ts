import { convert } from '../../src/core/quantities';
import { parameterOf, type ParameterId } from '../../src/core/catalogue';

/** Sheets as people keep them, made up, and what has to be understood: time (UTC), parameter, value in its own unit. */
interface Dialect {
	name: string;
	text: string;
	/** ISO moment, parameter, raw reading; the tank stands in Europe/Dublin. */
	found: [string, string, object][];
	/** Row (counted from 0 in the file) and what the reason says. */
	refused?: [number, RegExp][];
	notes?: number;
	/** A word of a doubt that has to be raised. */
	doubt?: RegExp;
}

const shown = (value: number | [number, number]) => ({ shown: value });
/** A value as written in another unit, in the parameter's own. */
function of(quantity: ParameterId, value: number, from: string) {
	const there = convert({ quantity, value, from, to: parameterOf(quantity)!.unit });
	if (!there.ok) throw new Error(there.problems[0]!.message);
	return shown(there.value.value);
}

export const DIALECTS: Dialect[] = [
	{
		name: 'wide, ISO dates, points',
		text: 'Date,Alk (dKH),Ca,Mg\n2026-01-05,8.1,430,1330\n2026-01-12,7.9,425,\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)],
			['2026-01-05T19:00:00Z', 'magnesium', shown(1330)],
			['2026-01-12T19:00:00Z', 'alkalinity', shown(7.9)],
			['2026-01-12T19:00:00Z', 'calcium', shown(425)]
		]
	},
	{
		name: 'semicolons, decimal commas, day first with points',
		text: 'Datum;KH;Kalzium;Nitrat\n05.01.2026;8,1;430;5\n31.01.2026;7,9;425;10\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)],
			['2026-01-05T19:00:00Z', 'nitrate', shown(5)],
			['2026-01-31T19:00:00Z', 'alkalinity', shown(7.9)],
			['2026-01-31T19:00:00Z', 'calcium', shown(425)],
			['2026-01-31T19:00:00Z', 'nitrate', shown(10)]
		]
	},
	{
		name: 'month first, slashes, times of day in twelve hours',
		text: 'Date,Time,dKH\n1/5/2026,8:10 PM,8.1\n1/19/2026,7:05 am,8.0\n',
		found: [
			['2026-01-05T20:10:00Z', 'alkalinity', shown(8.1)],
			['2026-01-19T07:05:00Z', 'alkalinity', shown(8.0)]
		]
	},
	{
		name: 'long, unit in a column',
		text: 'when,parameter,value,unit\n2026-02-01 20:15,Alkalinity,145,ppm CaCO3\n2026-02-01 20:20,Phosphate,30,ug/L P\n2026-02-01 20:25,Temp,78,°F\n',
		found: [
			['2026-02-01T20:15:00Z', 'alkalinity', of('alkalinity', 145, 'ppm CaCO3')],
			['2026-02-01T20:20:00Z', 'phosphate', of('phosphate', 30, 'ug/L P')],
			['2026-02-01T20:25:00Z', 'temperature', of('temperature', 78, 'F')]
		]
	},
	{
		name: 'bounds, intervals, empty cells and dashes',
		text: 'date,no3,po4,nh4\n2026-03-01,<0.2,0.02-0.04,-\n2026-03-08,> 50,n/a,<0,05\n2026-03-15,4-8,0.03,0\n',
		found: [
			['2026-03-01T19:00:00Z', 'nitrate', { below: 0.2 }],
			['2026-03-01T19:00:00Z', 'phosphate', shown([0.02, 0.04])],
			['2026-03-08T19:00:00Z', 'nitrate', { above: 50 }],
			['2026-03-08T19:00:00Z', 'ammonia', { below: 0 }],
			['2026-03-15T19:00:00Z', 'nitrate', shown([4, 8])],
			['2026-03-15T19:00:00Z', 'phosphate', shown(0.03)],
			['2026-03-15T19:00:00Z', 'ammonia', shown(0)]
		]
	},
	{
		name: 'tabs, specific gravity known by its size',
		text: 'Day\tSalinity\tpH\n2026-04-01\t1.0264\t8.2\n2026-04-02\t1.0256\t8.15\n',
		found: [
			['2026-04-01T18:00:00Z', 'salinity', of('salinity', 1.0264, 'SG 25/25')],
			['2026-04-01T18:00:00Z', 'ph', shown(8.2)],
			['2026-04-02T18:00:00Z', 'salinity', of('salinity', 1.0256, 'SG 25/25')],
			['2026-04-02T18:00:00Z', 'ph', shown(8.15)]
		]
	},
	{
		name: 'thousands with commas, in quotes',
		text: '"Date","Mg (ppm)","Ca (ppm)"\n"2026-01-05","1,280","430"\n"2026-01-12","1,310","1,430"\n',
		found: [
			['2026-01-05T19:00:00Z', 'magnesium', shown(1280)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)],
			['2026-01-12T19:00:00Z', 'magnesium', shown(1310)],
			['2026-01-12T19:00:00Z', 'calcium', shown(1430)]
		]
	},
	{
		name: 'thousands with points, gravity with a comma',
		text: 'Datum;Magnesium;Dichte\n5.1.2026;1.280;1,0255\n12.1.2026;1.310;1,026\n',
		found: [
			['2026-01-05T19:00:00Z', 'magnesium', shown(1280)],
			['2026-01-05T19:00:00Z', 'salinity', of('salinity', 1.0255, 'SG 25/25')],
			['2026-01-12T19:00:00Z', 'magnesium', shown(1310)],
			['2026-01-12T19:00:00Z', 'salinity', of('salinity', 1.026, 'SG 25/25')]
		]
	},
	{
		name: 'a title and an empty line above the header',
		text: 'My reef log,,\n,,\nDate,Alk,Ca\n2026-01-05,8.1,430\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)]
		]
	},
	{
		name: 'no header, long',
		text: '2026-01-05,alk,8.1\n2026-01-05,ca,430\n2026-01-12,alk,8.0\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)],
			['2026-01-12T19:00:00Z', 'alkalinity', shown(8.0)]
		]
	},
	{
		name: 'months by name',
		text: 'Date,Nitrate\n5 Jan 2026,5\n"March 12, 2026",10\n12-Apr-26,15\n',
		found: [
			['2026-01-05T19:00:00Z', 'nitrate', shown(5)],
			['2026-03-12T19:00:00Z', 'nitrate', shown(10)],
			['2026-04-12T18:00:00Z', 'nitrate', shown(15)]
		]
	},
	{
		name: 'dates as a spreadsheet keeps them',
		text: 'date,alk\n46027,8.1\n46034.5,8.0\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-12T12:00:00Z', 'alkalinity', shown(8.0)]
		]
	},
	{
		name: 'instants with their own offset',
		text: 'timestamp,alk\n2026-07-05T21:10:00+02:00,8.1\n2026-07-06T19:10:00Z,8.0\n',
		found: [
			['2026-07-05T19:10:00Z', 'alkalinity', shown(8.1)],
			['2026-07-06T19:10:00Z', 'alkalinity', shown(8.0)]
		]
	},
	{
		name: 'the night the clocks go back, and the hour that is left out',
		text: 'date,time,ca\n2025-10-26,01:30,430\n2026-03-29,01:30,425\n',
		found: [
			['2025-10-26T00:30:00Z', 'calcium', shown(430)],
			['2026-03-29T01:30:00Z', 'calcium', shown(425)]
		]
	},
	{
		name: 'alkalinity in milliequivalents, by its size',
		text: 'date,alk\n2026-01-05,2.9\n2026-01-12,3.0\n2026-01-19,2.8\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', of('alkalinity', 2.9, 'meq/L')],
			['2026-01-12T19:00:00Z', 'alkalinity', of('alkalinity', 3, 'meq/L')],
			['2026-01-19T19:00:00Z', 'alkalinity', of('alkalinity', 2.8, 'meq/L')]
		]
	},
	{
		name: 'nitrate as nitrogen, phosphate in ppb of it',
		text: 'date,NO3-N (mg/l),PO4 (ppb)\n2026-01-05,1.0,61\n',
		found: [
			['2026-01-05T19:00:00Z', 'nitrate', of('nitrate', 1, 'mg/L NO3-N')],
			['2026-01-05T19:00:00Z', 'phosphate', shown(0.061)]
		]
	},
	{
		name: 'units of headers in any order of their words',
		text: 'date,Nitrat NO3-N mg/l,Nitrite (ppm as N),Phosphate [PO4-P mg/L],Calcium Ca mg/l,Alk °dKH\n2026-01-05,1,0.01,0.02,430,8.1\n',
		found: [
			['2026-01-05T19:00:00Z', 'nitrate', of('nitrate', 1, 'mg/L NO3-N')],
			['2026-01-05T19:00:00Z', 'nitrite', of('nitrite', 0.01, 'mg/L NO2-N')],
			['2026-01-05T19:00:00Z', 'phosphate', of('phosphate', 0.02, 'mg/L PO4-P')],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)],
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)]
		]
	},
	{
		name: 'units of headers that nobody understands are asked about, and nothing of them is taken',
		text: 'date,Alk,Calcium (CaCO3),Density kg/m3,Conductivity (µS/cm),Phosphate (ppb),Mg °dH,Nitrat mval/l\n2026-01-05,8.1,1070,1023,53100,30,290,0.1\n',
		found: [['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)]],
		refused: Array.from({ length: 6 }, (): [number, RegExp] => [0, /unit that is not understood/]),
		doubt: /Calcium \(CaCO3\).*Density kg.*µS.*Phosphate.*Mg °dH.*Nitrat mval/
	},
	{
		name: 'and where a row names its parameter with its unit, alike',
		text: 'date,what,value\n2026-01-05,Nitrate (ppm NO3-N),1\n2026-01-05,Calcium (CaCO3),1070\n',
		found: [['2026-01-05T19:00:00Z', 'nitrate', of('nitrate', 1, 'mg/L NO3-N')]],
		refused: [[2, /unit that is not understood/]]
	},
	{
		name: 'what was poured, wanted, used up or measured elsewhere is no test',
		text: 'date,KH,KH dose (ml),Target KH,KH min,Alk consumption,Alk Δ,Ca,Ca added,Ca offset,Ca/day,Tap KH,RO NO3,Magnesium Soll,Mg Verbrauch\n2026-01-05,8.1,25,8.5,7,0.9,-0.2,430,12,5,3,11,2,1350,4\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)]
		],
		doubt:
			/No tests of the tank.*KH dose.*Target.*min.*consumption.*Δ.*added.*offset.*Tap.*RO.*Soll.*Verbrauch/
	},
	{
		name: 'rows of what was poured among rows of tests',
		text: 'date,type,parameter,value\n2026-01-05,Test,KH,8.1\n2026-01-05,Dose,KH,25\n2026-01-06,Test,KH target,8.5\n',
		found: [['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)]],
		refused: [
			[2, /no test: it says “Dose”/],
			[3, /no test of the tank/]
		]
	},
	{
		name: 'headers that are names of every object',
		text: 'date,alk constructor,toString\n2026-01-05,8.1,430\n',
		found: [['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)]]
	},
	{
		name: 'a type that is the parameter',
		text: 'date,type,result\n2026-01-05,KH,8.1\n2026-01-05,Ca,430\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)]
		]
	},
	{
		name: 'the first of every month, which could be the first days of one',
		text: 'date,alk\n1/2/2026,8.1\n1/3/2026,8.0\n1/4/2026,8.1\n',
		found: [
			['2026-01-02T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-03T19:00:00Z', 'alkalinity', shown(8.0)],
			['2026-01-04T19:00:00Z', 'alkalinity', shown(8.1)]
		],
		doubt: /1\/2\/2026.*2026-01-02.*could be 2026-02-01/
	},
	{
		name: 'notes beside values, and a note alone',
		text: 'date,alk,notes\n2026-01-05,8.1,changed the lamp\n2026-01-06,,"fed, twice"\n',
		found: [['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)]],
		notes: 2
	},
	{
		name: 'waters by name',
		text: 'date,water,alk\n2026-01-05,Mixing bin,8.9\n2026-01-05,,8.1\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.9)],
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)]
		]
	},
	{
		name: 'rows that cannot be taken, each with its reason',
		text: 'date,alk,ca\nsoon,8.1,430\n2026-01-05,trace,430\n2031-01-05,8.1,\n2026-02-30,8.1,\n2026-01-06,eight,\n2026-01-07,-3,\n,8,\n',
		found: [['2026-01-05T19:00:00Z', 'calcium', shown(430)]],
		refused: [
			[1, /no date/],
			[2, /below what/],
			[3, /ahead/],
			[4, /no date/],
			[5, /no number/],
			[6, /at least 0/],
			[7, /has no date/]
		]
	},
	{
		name: 'a parameter and a unit nobody knows',
		text: 'date,parameter,value,unit\n2026-01-05,alk,8.1,dKH\n2026-01-05,unobtainium,3,mg/L\n2026-01-05,ca,430,furlongs\n',
		found: [['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)]],
		refused: [
			[2, /unobtainium/],
			[3, /furlongs/]
		]
	},
	{
		name: 'units in cells, errors behind values, about',
		text: 'date;alk;ca\n05.01.2026;8,1 dKH;~430\n06.01.2026;8,0 ± 0,3;430 mg/l\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)],
			['2026-01-06T19:00:00Z', 'alkalinity', shown(8.0)],
			['2026-01-06T19:00:00Z', 'calcium', shown(430)]
		]
	},
	{
		name: 'a mark before the text, and a line that names the separator',
		text: '\uFEFFsep=;\r\nDate;Alk;Ca\r\n2026-01-05;8.1;430\r\n',
		found: [
			['2026-01-05T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-01-05T19:00:00Z', 'calcium', shown(430)]
		]
	},
	{
		name: 'ambiguous order, told by the march of time',
		text: 'date,alk\n03/04/2026,8.1\n03/05/2026,8.0\n03/06/2026,8.1\n03/07/2026,8.2\n',
		found: [
			['2026-03-04T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-03-05T19:00:00Z', 'alkalinity', shown(8.0)],
			['2026-03-06T19:00:00Z', 'alkalinity', shown(8.1)],
			['2026-03-07T19:00:00Z', 'alkalinity', shown(8.2)]
		]
	},
	{
		name: 'pipes, conductivity and Fahrenheit in headers',
		text: 'day|conductivity (mS/cm)|temp (F)|K\n2026-01-05|53.1|77|400\n',
		found: [
			['2026-01-05T19:00:00Z', 'salinity', of('salinity', 53.1, 'mS/cm 25C')],
			['2026-01-05T19:00:00Z', 'temperature', shown(25)],
			['2026-01-05T19:00:00Z', 'potassium', shown(400)]
		]
	}
];
