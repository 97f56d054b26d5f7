import { type BenchRequest } from '$core/schedule';
import { stepsOf, type RunStep, type RunTest } from '$core/run';
import type { Dilution, Method } from '$core/instruments';
import { parameterOf } from '$core/catalogue';
import type { Pack } from '$lib/api/methods';
import { formatOf } from '$lib/ui/when';

/** Of a kit whose steps nobody has held against its leaflet. */
export const STEPS_OF_TEMPLATE = 'a template’s steps: the leaflet goes before them';

/** A method a keeper may choose for a session. */
export interface Choice {
	id: string;
	versionId: string;
	profile: Method;
}

/** One test of a session as it was chosen. */
export interface Chosen {
	choice: Choice;
	thinned?: Dilution;
	/** Another water than the session's. */
	sourceId?: string;
	hidden?: boolean;
}
/** What goes on from another test or takes it away comes after. */
export const inTurn = <T extends Chosen>(chosen: T[]): T[] => {
	const waits = ({ choice: { profile } }: Chosen) => Number(!!(profile.continues ?? profile.takeAway));
	return [...chosen].sort((a, b) => waits(a) - waits(b));
};

/** The tests of a session from the methods chosen, in their turn: vials numbered, kits lettered, what waits for what. */
export function testsOf(chosen: Chosen[], packs: Pack[]): RunTest[] {
	const tests: RunTest[] = [];
	let vials = 0;
	const turn = inTurn(chosen);
	const sameKit = (a: Chosen, b: Chosen) => a.choice.id === b.choice.id && a.sourceId === b.sourceId;
	for (const [i, test] of turn.entries()) {
		const { choice, thinned, sourceId, hidden } = test;
		const { profile } = choice;
		// A second titrant goes on in the vial of the first; what is taken away has to be known. Of duplicates each has its own.
		const parameter = profile.continues ?? profile.takeAway?.parameter;
		const measured = turn.flatMap((t, at) =>
			t.choice.profile.parameter === parameter && t.sourceId === sourceId ? [at] : []
		);
		const nthOfKind = turn.slice(0, i).filter((t) => sameKit(t, test)).length;
		const first = measured[Math.min(nthOfKind, measured.length - 1)] ?? -1;
		const goesOn = profile.continues !== undefined && first >= 0 ? tests[first] : undefined;
		const letter = packs.find((p) => p.methodId === choice.id)?.label;
		tests.push({
			id: `t${i + 1}`,
			methodVersionId: choice.versionId,
			vial: goesOn?.vial ?? ++vials,
			...(letter ? { letter } : {}),
			...(thinned ? { thinned } : {}),
			...(sourceId === undefined ? {} : { sourceId }),
			...(hidden ? { hidden } : {}),
			...(first >= 0 && first !== i ? { after: [`t${first + 1}`] } : {})
		});
	}
	return tests;
}

/** A test that is added to a session under way, under an id that no other device gives: in a vial of its own, or in one it goes on in. */
export function addedTest(
	tests: RunTest[],
	methodOf: (versionId: string) => Method | undefined,
	choice: Choice,
	packs: Pack[],
	id: string,
	thinned?: Dilution
): RunTest {
	const { continues, takeAway } = choice.profile;
	const measures = (parameter: string | undefined) =>
		parameter === undefined
			? undefined
			: tests.findLast((t) => methodOf(t.methodVersionId)?.parameter === parameter);
	const goesOn = measures(continues);
	const first = goesOn ?? measures(takeAway?.parameter);
	const letter = packs.find((p) => p.methodId === choice.id)?.label;
	return {
		id,
		methodVersionId: choice.versionId,
		vial: goesOn?.vial ?? Math.max(0, ...tests.map((t) => t.vial)) + 1,
		...(letter ? { letter } : {}),
		...(thinned ? { thinned } : {}),
		...(first ? { after: [first.id] } : {})
	};
}

/** The same as a question to `bench`. */
export const requestOf = (
	tests: RunTest[],
	methodOf: (versionId: string) => Method | undefined,
	people: number,
	order: string[]
): BenchRequest => ({
	tests: tests.map(({ id, methodVersionId, thinned, after }) => ({
		id,
		steps: stepsOf(methodOf(methodVersionId)!, thinned).map(({ label, hands, then, uses }) => ({
			label,
			hands,
			...(then ? { then } : {}),
			...(uses ? { uses } : {})
		})),
		...(after ? { after } : {})
	})),
	people,
	prefer: 'early',
	...(order.length ? { order } : {})
});

/** Whether a test has a vial of its own: dips and drops on a prism have none. */
export const needsVial = (steps: Pick<RunStep, 'act'>[]): boolean => steps.some((s) => s.act !== 'read');

/** What a test is called among the others of a session. `water`: what another water than the session's is called. */
export function titlesOf(
	tests: { id: string; profile: Method; thinned?: Dilution; water?: string | undefined }[]
): Record<string, string> {
	const title = (profile: Method) => parameterOf(profile.parameter)?.title ?? profile.parameter;
	const same = (a: (typeof tests)[number], b: (typeof tests)[number]) =>
		a.profile.id === b.profile.id &&
		a.profile.name === b.profile.name &&
		!a.thinned === !b.thinned &&
		a.water === b.water;
	return Object.fromEntries(
		tests.map((test) => {
			const { id, profile, thinned, water } = test;
			const kits = new Set(
				tests
					.filter((t) => t.profile.parameter === profile.parameter && !t.thinned === !thinned)
					.map((t) => t.profile.name)
			);
			const alike = tests.filter((t) => same(t, test));
			return [
				id,
				[
					kits.size > 1 ? profile.name : title(profile),
					thinned ? 'diluted' : '',
					water ?? '',
					alike.length > 1 ? `${alike.indexOf(test) + 1} of ${alike.length}` : ''
				]
					.filter(Boolean)
					.join(', ')
			];
		})
	);
}

/** A method's name without its parameter, where that stands beside it. */
export function shortName(profile: Method): string {
	const title = parameterOf(profile.parameter)?.title ?? '';
	return profile.name.startsWith(`${title}, `) ? profile.name.slice(title.length + 2) : profile.name;
}

export const symbolOf = (profile: Method): string =>
	parameterOf(profile.parameter)?.symbol ?? profile.parameter.slice(0, 4);

/** mm:ss, of time left or past. */
export function minutesAndSeconds(ms: number): string {
	const seconds = Math.round(Math.abs(ms) / 1000);
	return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
}

/** "12 min", "1 h 5 min", "40 s". */
export function inMinutes(seconds: number): string {
	if (seconds < 90) return `${Math.round(seconds)} s`;
	const minutes = Math.round(seconds / 60);
	return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

const CLOCK: Intl.DateTimeFormatOptions = { hour: '2-digit', minute: '2-digit' };
/** "20:31" on the tank's clock. */
export const clockTime = (at: number, timeZone: string): string => formatOf(timeZone, CLOCK).format(at);
