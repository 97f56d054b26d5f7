import { instrumentOf, type Kind, type Method } from '$core/instruments';
import {
	SHIPPED_METHODS,
	hasOwnChart,
	isKnownValue,
	needsChart,
	timesTaken,
	withOwnChart
} from '$core/methods';
import { PARAMETERS, inSentence, parameterOf } from '$core/catalogue';
import type { KitDraft } from '$lib/ui/instruments/editor';
import { KINDS, editorOf } from '$lib/ui/instruments/editors';
import { chartTyped, type ChartTyped } from './chart-rows';
import { freshMethod, slugOf } from './fresh-method';
import { number } from './typed';

/** Instruments as a keeper tells them apart: by how they are read. */
export const LOOKS = KINDS.flatMap((reads) => editorOf({ reads }).looks.map((look) => ({ ...look, reads })));
const lookNamed = (id: string) => LOOKS.find((l) => l.id === id) ?? LOOKS[0]!;
/** What kind it is that looks so. */
export const kindOf = (look: string): Kind => lookNamed(look).reads;

/** How a method's instrument looks. */
export const lookOf = (method: Method): string =>
	editorOf(method).lookOf?.(method) ?? editorOf(method).looks[0]!.id;

const TEMPLATES = SHIPPED_METHODS.filter((m) => !isKnownValue(m));
/** Templates that look so and measure that. */
export const templatesFor = (look: string, parameter: string): Method[] =>
	TEMPLATES.filter((m) => lookOf(m) === look && m.parameter === parameter);

/** What a kit's answer may hold besides: what a template of that parameter takes away from a total. */
export const takenFrom = ({ parameter, look }: Pick<KitDraft, 'parameter' | 'look'>): string | undefined =>
	isTitrated({ reads: kindOf(look) })
		? TEMPLATES.find((m) => m.parameter === parameter && m.takeAway)?.takeAway?.parameter
		: undefined;
/** Whether it is titrated: then it can be less another answer, by whichever glass it is counted. */
export const isTitrated = (method: Pick<Method, 'reads'>): boolean =>
	instrumentOf(method).titration !== undefined;

/** What may be measured by an instrument that looks so: what a template does first, then whatever else. */
export function parametersFor(look: string): string[] {
	const known = PARAMETERS.filter((p) => templatesFor(look, p.id).length).map((p) => p.id as string);
	return look === 'glass'
		? known
		: [...known, ...PARAMETERS.map((p) => p.id).filter((p) => !known.includes(p))];
}

/** The first template for what a draft says. */
const templateOf = ({ look, parameter, template }: Pick<KitDraft, 'look' | 'parameter' | 'template'>) => {
	const some = templatesFor(look, parameter);
	return some.find((m) => m.id === template) ?? some[0];
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
export function freshKit(look: string, parameter: string, unit?: string, template = ''): KitDraft {
	const found = templateOf({ look, parameter, template });
	const title = parameterOf(parameter)?.title ?? parameter;
	return {
		look,
		parameter,
		template: found?.id ?? '',
		// An instrument shows what it shows, however its keeper counts.
		unit: shownBy(found) ?? unit ?? found?.unit ?? parameterOf(parameter)?.unit ?? '',
		name: `${title}, ${inSentence(lookNamed(look).title)}`,
		sampleMl: found?.samples ? String(found.samples[0]!.ml) : '',
		fillMl: String((found && editorOf(found).lined?.fillMl(found)) ?? 1),
		readAs: '',
		rows: [],
		patches: ''
	};
}

interface KitTyped {
	/** The kit as it would stand on the shelf; by a template's scale where its own is not typed. */
	profile: Method;
	/** What the leaflet's lines say. */
	chart: ChartTyped | undefined;
}

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
	if (other === undefined || !isTitrated(kit)) return kit;
	const { takeAway: _usual, ...alone } = kit;
	return other
		? { ...alone, takeAway: { parameter: other, times: timesTaken(kit.parameter, other) } }
		: alone;
}

function charting(draft: KitDraft): KitTyped {
	const { look, parameter, unit, name } = draft;
	const reads = kindOf(look);
	const template = templateOf(draft) ?? freshMethod(reads, { parameter, unit });
	const { notes: _ofTemplate, pack: _itsPrice, ...usual } = template;
	const base = { ...usual, name: name.trim(), id: slugOf(name, parameter) } as Method;
	const { lined, kit: asTyped } = editorOf(base);
	if (!lined) return { profile: asTyped(base, draft), chart: undefined };
	const kit = asTyped(withSample(base, number(draft.sampleMl)), draft);
	const chart = chartTyped(draft.rows, {
		parameter,
		unit,
		reads: lined.reads,
		fillMl: lined.fillMl(kit),
		readAs: draft.readAs || undefined,
		checked: draft.checked
	});
	const said = chart.points.length === 0 ? lined.withoutLines?.(kit, draft) : undefined;
	if (said) return { profile: said, chart };
	return {
		profile:
			chart.fit && !chart.open
				? lined.charted({ ...withOwnChart(kit), unit }, chart.fit, chart.points)
				: { ...kit, chart: 'template' },
		chart
	};
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
