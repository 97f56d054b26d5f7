import type { TSchema } from 'typebox';
import {
	BlendRequest,
	BlendResult,
	CorrectRequest,
	CorrectResult,
	DoseRequest,
	LabelRequest,
	LabelResult,
	label,
	DoseResult,
	blend,
	correct,
	dose,
	loadSolver,
	loadedSolver
} from './adjust';
import { BenchRequest, BenchResult, bench } from './schedule';
import { ChartRequest, ChartResult, chart } from './calibration';
import { ColourRequest, ColourResult, colour } from './colour';
import { ReadingRequest, ReadingResult, read } from './methods';
import {
	AmmoniaRequest,
	AmmoniaResult,
	LowPhRequest,
	LowPhResult,
	SeawaterRequest,
	SeawaterResult,
	ammonia,
	lowPh,
	seawater
} from './seawater';
import {
	CompareRequest,
	CompareResult,
	ReferenceRequest,
	ReferenceResult,
	RepeatsRequest,
	RepeatsResult,
	ScorecardRequest,
	ScorecardResult,
	WatersRequest,
	WatersResult,
	compare,
	reference,
	repeats,
	scorecard,
	waters
} from './quality';
import { TechniqueRequest, TechniqueResult, hand } from './practice';
import { TitrationRequest, TitrationResult, titration } from './titration';
import { LeafletRequest, LeafletResult, PlungerRequest, PlungerResult, leaflet, plunger } from './picture';
import { questions } from './misreadings';
import { MeasuredVolumeRequest, MeasuredVolumeResult, measuredVolume } from './tank';
import { good, type Outcome } from './base';
import { JudgeRequest, JudgeResult, TargetsRequest, TargetsResult, judge, targets } from './targets';
import { TankRequest, TankResult, TrendRequest, TrendResult, tank, trend } from './trend';
import { ConvertRequest, ConvertResult, convert } from './quantities';

/** One named calculation: what it takes, what it gives, and the pure function between. */
interface Calculation {
	name: string;
	title: string;
	request: TSchema;
	result: TSchema;
	/** Takes a request that has passed `request`; what a schema cannot say comes back as problems. */
	run: (request: never) => Outcome<unknown>;
	/** What has to be loaded before it can run. */
	prepare?: () => Promise<unknown>;
}

/** A reading with the questions it raises. */
export function reading(request: ReadingRequest): Outcome<ReadingResult> {
	const measured = read(request);
	return measured.ok ? good({ ...measured.value, questions: questions(request, measured.value) }) : measured;
}

/** Everything Tevrik computes; the only list of it. */
export const CALCULATIONS: Calculation[] = [
	{
		name: 'convert',
		title: 'A value in another unit',
		request: ConvertRequest,
		result: ConvertResult,
		run: convert
	},
	{
		name: 'reading',
		title: 'From what was seen on an instrument to a number with its error',
		request: ReadingRequest,
		result: ReadingResult,
		run: reading
	},
	{
		name: 'colour',
		title: 'A shade from a photograph of the card and the vial',
		request: ColourRequest,
		result: ColourResult,
		run: colour
	},
	{
		name: 'plunger',
		title: 'What is left in a syringe, from brightness along its barrel',
		request: PlungerRequest,
		result: PlungerResult,
		run: plunger
	},
	{
		name: 'leaflet',
		title: 'Lines of a chart from recognised words',
		request: LeafletRequest,
		result: LeafletResult,
		run: leaflet
	},
	{
		name: 'chart',
		title: 'A kit’s scale from the lines of its leaflet',
		request: ChartRequest,
		result: ChartResult,
		run: chart
	},
	{
		name: 'seawater',
		title: 'Salinity, density, ions at 35 PSU and the carbonate system',
		request: SeawaterRequest,
		result: SeawaterResult,
		run: seawater
	},
	{
		name: 'bench',
		title: 'Several tests, one pair of hands: the shortest evening',
		request: BenchRequest,
		result: BenchResult,
		run: bench
	},
	{
		name: 'trend',
		title: 'What the water is doing: level, drift, use, forecast',
		request: TrendRequest,
		result: TrendResult,
		run: trend
	},
	{
		name: 'tank',
		title: 'All parameters as one water: a test of one sharpens the others',
		request: TankRequest,
		result: TankResult,
		run: tank
	},
	{
		name: 'targets',
		title: 'Bands, ideals and alarms of a school, phase and keeper',
		request: TargetsRequest,
		result: TargetsResult,
		run: targets
	},
	{
		name: 'judge',
		title: 'What deserves attention, as kinds and numbers',
		request: JudgeRequest,
		result: JudgeResult,
		run: judge
	},
	{
		name: 'repeats',
		title: 'Several readings of one sample as one, and whether one more is worth it',
		request: RepeatsRequest,
		result: RepeatsResult,
		run: repeats
	},
	{
		name: 'reference',
		title: 'A kit against water whose content is known, or an amount that was added',
		request: ReferenceRequest,
		result: ReferenceResult,
		run: reference
	},
	{
		name: 'compare',
		title: 'Two kits on the same water: is it a difference, and what makes it',
		request: CompareRequest,
		result: CompareResult,
		run: compare
	},
	{
		name: 'scorecard',
		title: 'What each method was worth in what was done with it',
		request: ScorecardRequest,
		result: ScorecardResult,
		run: scorecard
	},
	{
		name: 'waters',
		title: 'One water beside another, or beside reference sea water',
		request: WatersRequest,
		result: WatersResult,
		run: waters
	},
	{
		name: 'ammonia',
		title: 'The un-ionised part of ammonia, which is what harms',
		request: AmmoniaRequest,
		result: AmmoniaResult,
		run: ammonia
	},
	{
		name: 'dose',
		title: 'How much of a supplement for a change, or what an amount changes, with all it does beside',
		request: DoseRequest,
		result: DoseResult,
		run: dose
	},
	{
		name: 'label',
		title: 'What a bottle’s sentence says: how much in how much water raises what by how much',
		request: LabelRequest,
		result: LabelResult,
		run: label
	},
	{
		name: 'blend',
		title: 'Waters mixed to a target, series of water changes, salt or fresh water for a salinity',
		request: BlendRequest,
		result: BlendResult,
		run: blend
	},
	{
		name: 'correct',
		title: 'One plan that brings all parameters home, safe by day',
		request: CorrectRequest,
		result: CorrectResult,
		run: (request: CorrectRequest) => correct(request, loadedSolver()),
		prepare: () => loadSolver()
	},
	{
		name: 'titration',
		title: 'A vial that behaves: titrant, indicator, light and mixing, as equilibria and spectra have it',
		request: TitrationRequest,
		result: TitrationResult,
		run: titration
	},
	{
		name: 'hand',
		title: 'What a hand and an eye are worth, from tries whose truth was known',
		request: TechniqueRequest,
		result: TechniqueResult,
		run: hand
	},
	{
		name: 'net-volume',
		title: 'Net volume from a pour of known size and a test before and after',
		request: MeasuredVolumeRequest,
		result: MeasuredVolumeResult,
		run: measuredVolume
	},
	{
		name: 'low-ph',
		title: 'Why pH is low: carbon dioxide from the room, or alkalinity',
		request: LowPhRequest,
		result: LowPhResult,
		run: lowPh
	}
];
