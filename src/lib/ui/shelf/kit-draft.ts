import { type Method, type Shown, type Step } from '$core/instruments';
import {
	SHIPPED_METHODS,
	hasOwnChart,
	isKnownValue,
	needsChart,
	timesTaken,
	withOwnChart
} from '$core/methods';
import { isQuantity, parseEntry, slopeAt, valueIn } from '$core/quantities';
import { PARAMETERS, inSentence, parameterOf } from '$core/catalogue';
import { charted, chartTyped, type ChartTyped, type Row } from './chart-rows';
import { freshMethod, slugOf } from './fresh-method';

/** Instruments as a keeper tells them apart: by how they are read. */
export const LOOKS = [
	{ id: 'syringe', title: 'Syringe', hint: 'read at the plunger' },
	{ id: 'drops', title: 'Drops', hint: 'counted' },
	{ id: 'card', title: 'Colour card', hint: 'beside the vial' },
	{ id: 'wheel', title: 'Colour wheel', hint: 'turned until it matches' },
	{ id: 'block', title: 'Sliding block', hint: 'slid until it matches' },
	{ id: 'meter', title: 'Meter', hint: 'shows a number' },
	{ id: 'glass', title: 'Glass with a scale', hint: 'refractometer, hydrometer, thermometer' }
] as const;
export type Look = (typeof LOOKS)[number]['id'];

/** How a method's instrument looks. */
export function lookOf(method: Method): Look {
	if (method.reads === 'shades') return method.form ?? 'card';
	if (method.reads === 'display') return 'meter';
	return method.reads === 'scale-line' ? 'glass' : method.reads;
}

const TEMPLATES = SHIPPED_METHODS.filter((m) => !isKnownValue(m));
/** Templates that look so and measure that. */
export const templatesFor = (look: Look, parameter: string): Method[] =>
	TEMPLATES.filter((m) => lookOf(m) === look && m.parameter === parameter);

/** What a kit's answer may hold besides: what a template of that parameter takes away from a total. */
export const takenFrom = ({ parameter, look }: Pick<KitDraft, 'parameter' | 'look'>): string | undefined =>
	READS[look] === 'syringe' || READS[look] === 'drops'
		? TEMPLATES.find((m) => m.parameter === parameter && m.takeAway)?.takeAway?.parameter
		: undefined;

/** What may be measured by an instrument that looks so: what a template does first, then whatever else. */
export function parametersFor(look: Look): string[] {
	const known = PARAMETERS.filter((p) => templatesFor(look, p.id).length).map((p) => p.id as string);
	return look === 'glass'
		? known
		: [...known, ...PARAMETERS.map((p) => p.id).filter((p) => !known.includes(p))];
}

/** A kit as it is being put on the shelf; all typed, so that nothing is lost by a reload. */
export interface KitDraft {
	look: Look;
	parameter: string;
	/** Which of several templates. */
	template: string;
	unit: string;
	name: string;
	sampleMl: string;
	fillMl: string;
	/** What the leaflet says its readings are; '' where that follows from the lines. */
	readAs: '' | 'left' | 'used';
	rows: Row[];
	/** Lines of an unusual chart that were looked at again. */
	checked?: string;
	/** Values of the patches, palest first. */
	patches: string;
	/** Values of a second column beside the same patches, where there is one. */
	second?: string;
	/** What one drop stands for, where the leaflet says that in place of a table. */
	perDrop?: string;
	/** Which other answer is taken away from its total; as the template where nothing was said, none where ''. */
	takeAway?: string;
	/** Its steps, once they are other than the template's. */
	steps?: Step[];
	/** The template's steps are those of its leaflet. */
	sameSteps?: boolean;
}

/** The first template for what a draft says. */
export const templateOf = ({
	look,
	parameter,
	template
}: Pick<KitDraft, 'look' | 'parameter' | 'template'>) => {
	const some = templatesFor(look, parameter);
	return some.find((m) => m.id === template) ?? some[0];
};
const READS: Record<Look, Method['reads']> = {
	syringe: 'syringe',
	drops: 'drops',
	card: 'shades',
	wheel: 'shades',
	block: 'shades',
	meter: 'display',
	glass: 'scale-line'
};

const shownBy = (method: Method | undefined): string | undefined =>
	method && 'display' in method ? method.display.unit : undefined;
/** The draft of an instrument that shows another unit: as the template that does, or with its scale in that unit. */
export const showing = (draft: KitDraft, unit: string): KitDraft => ({
	...draft,
	unit,
	template: templatesFor(draft.look, draft.parameter).find((m) => shownBy(m) === unit)?.id ?? draft.template
});

/** A draft for an instrument and a parameter; units as the keeper counts. */
export function freshKit(look: Look, parameter: string, unit?: string, template = ''): KitDraft {
	const found = templateOf({ look, parameter, template });
	const title = parameterOf(parameter)?.title ?? parameter;
	return {
		look,
		parameter,
		template: found?.id ?? '',
		// An instrument shows what it shows, however its keeper counts.
		unit: shownBy(found) ?? unit ?? found?.unit ?? parameterOf(parameter)?.unit ?? '',
		name: `${title}, ${inSentence(LOOKS.find((l) => l.id === look)!.title)}`,
		sampleMl: found?.samples ? String(found.samples[0]!.ml) : '',
		fillMl: found?.reads === 'syringe' ? String(found.syringe.fillMl) : '1',
		readAs: '',
		rows: [],
		patches: ''
	};
}

/** A number as typed, or NaN, which no method may have. */
export const number = (text: string): number => {
	const entry = parseEntry(text);
	return entry.ok && entry.value.number.kind === 'exact' ? entry.value.number.value : NaN;
};
/** Numbers one after another, with decimal points or commas: "0 0,5 1" or "0; 0,5; 1". */
export const patchValues = (text: string): number[] =>
	text
		.split(/[\s;]+/)
		.filter(Boolean)
		.map((word) => number(word.replace(/[.,]$/, '')));

export interface KitTyped {
	/** The kit as it would stand on the shelf; by a template's scale where its own is not typed. */
	profile: Method;
	/** What the leaflet's lines say. */
	chart: ChartTyped | undefined;
}

/** What one drop stands for, as it was typed: NaN where that is no number above nothing. */
export const perDropOf = ({ perDrop = '' }: KitDraft): number =>
	number(perDrop) > 0 ? number(perDrop) : NaN;

/** What the column that is not read first is called. */
export const SECOND = 'high range';

/** The kit a draft says; its steps are the template's until somebody says or changes them. */
export function kitOf(draft: KitDraft): KitTyped {
	const { profile: read, chart } = charting(draft);
	const profile = takingAway(read, draft.takeAway);
	const steps = draft.steps ?? profile.steps;
	const { stepsBy: _unsaid, ...kit } = { ...profile, ...(steps ? { steps } : {}) };
	const ofTemplate = steps?.length && !draft.steps && !draft.sameSteps;
	return { profile: { ...kit, ...(ofTemplate ? { stepsBy: 'template' } : {}) } as Method, chart };
}

/** The same kit where it answers for another metal too, or for its own alone. */
function takingAway(kit: Method, other: string | undefined): Method {
	if (other === undefined || (kit.reads !== 'syringe' && kit.reads !== 'drops')) return kit;
	const { takeAway: _usual, ...alone } = kit;
	return other
		? { ...alone, takeAway: { parameter: other, times: timesTaken(kit.parameter, other) } }
		: alone;
}

function charting(draft: KitDraft): KitTyped {
	const { look, parameter, unit, name } = draft;
	const reads = READS[look];
	const template = templateOf(draft);
	const bare = template ?? freshMethod(reads, { parameter, unit });
	const { notes: _ofTemplate, pack: _itsPrice, ...usual } = bare;
	const base = { ...usual, name: name.trim(), id: slugOf(name, parameter) } as Method;
	if (base.reads === 'shades') {
		const patches = patchValues(draft.patches);
		const second = patchValues(draft.second ?? '');
		const columns = second.length ? [{ name: SECOND, shades: second }] : [];
		const shaped = { ...base, unit, form: look as 'card', columns };
		return {
			profile: patches.length
				? { ...withOwnChart(shaped), shades: patches }
				: { ...base, form: look as 'card', chart: 'template' },
			chart: undefined
		};
	}
	if (base.reads !== 'syringe' && base.reads !== 'drops')
		return {
			profile: { ...base, display: displayIn(base.display, parameter, unit) } as Method,
			chart: undefined
		};
	const sampled = withSample(base, number(draft.sampleMl));
	const fillMl = number(draft.fillMl);
	const kit: Method =
		sampled.reads === 'syringe' ? { ...sampled, syringe: { ...sampled.syringe, fillMl } } : sampled;
	const chart = chartTyped(draft.rows, {
		parameter,
		unit,
		reads: base.reads,
		fillMl,
		readAs: draft.readAs || undefined,
		checked: draft.checked
	});
	const perDrop = perDropOf(draft);
	if (kit.reads === 'drops' && !Number.isNaN(perDrop) && chart.points.length === 0)
		return {
			profile: withOwnChart({ ...kit, unit, scale: { kind: 'linear', perDrop, atZero: 0 } }),
			chart
		};
	return {
		profile:
			chart.fit && !chart.open
				? charted({ ...kit, unit } as Method, chart.fit, chart.points)
				: ({ ...kit, chart: 'template' } as Method),
		chart
	};
}

/** A display of another unit: what it shows and promises there, to a step that a scale has (1, 2 or 5 of a decade). */
export function displayIn(display: Shown, parameter: string, unit: string): Shown {
	const own = parameterOf(parameter);
	if (display.unit === unit || !own || !isQuantity(parameter)) return { ...display, unit };
	const to = (value: number) => valueIn(parameter, value, display.unit, unit);
	const middle = valueIn(parameter, (own.plausible[0] + own.plausible[1]) / 2, own.unit, display.unit);
	const slope = Math.abs(slopeAt(parameter, middle, display.unit, unit));
	const { resolution, graduation, absolute, range } = display;
	return {
		...display,
		unit,
		...(resolution === undefined ? {} : { resolution: stepOf(resolution * slope) }),
		...(graduation === undefined ? {} : { graduation: stepOf(graduation * slope) }),
		...(absolute === undefined ? {} : { absolute: Number((absolute * slope).toPrecision(2)) }),
		...(range ? { range: [to(range[0]), to(range[1])] } : {})
	};
}
/** The step of a scale that is nearest to a number. */
function stepOf(x: number): number {
	const decade = 10 ** Math.floor(Math.log10(x));
	const [step = 1] = [1, 2, 5, 10].sort(
		(a, b) => Math.abs(Math.log((a * decade) / x)) - Math.abs(Math.log((b * decade) / x))
	);
	return Number((step * decade).toPrecision(1));
}

/** The same method with another sample, also in the words of its steps. */
function withSample<T extends Method>(method: T, ml: number): T {
	const usual = method.samples?.[0]?.ml;
	if (usual === undefined || !(ml > 0) || ml === usual) return method;
	return {
		...method,
		samples: method.samples!.map((s) => ({ ...s, ml: (s.ml / usual) * ml })),
		steps: (method.steps ?? []).map((step) =>
			step.do === 'measure' ? { ...step, text: step.text.replace(`${usual} mL`, `${ml} mL`) } : step
		)
	};
}

/** Whether a kit counts as it is, or stands on the shelf without its chart. */
export const stands = (profile: Method): 'own' | 'without' | 'needs none' =>
	!needsChart(profile.reads) ? 'needs none' : hasOwnChart(profile) ? 'own' : 'without';
