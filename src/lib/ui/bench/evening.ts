import { type BenchRequest } from '$core/schedule';
import { stepsOf, type EveningStep, type RunTest } from '$core/run';
import type { Dilution, Method } from '$core/methods';
import { parameterOf } from '$core/quantities';
import type { Pack } from '$lib/api/methods';
import { formatOf } from '$lib/ui/when';

/** A method a keeper may choose for an evening. */
export interface Choice {
	id: string;
	versionId: string;
	profile: Method;
}

/** The tests of an evening from the methods chosen, in their order: vials numbered, kits lettered, what waits for what. */
export function testsOf(chosen: { choice: Choice; thinned?: Dilution }[], packs: Pack[]): RunTest[] {
	const tests: RunTest[] = [];
	let vials = 0;
	const waits = ({ choice: { profile } }: { choice: Choice }) =>
		Number(!!(profile.continues ?? profile.takeAway));
	const inTurn = [...chosen].sort((a, b) => waits(a) - waits(b));
	const measuredBy = (parameter: string | undefined) =>
		inTurn.findIndex(({ choice }) => choice.profile.parameter === parameter);
	for (const [i, { choice, thinned }] of inTurn.entries()) {
		const { profile } = choice;
		// A second titrant goes on in the vial of the first; what is taken away has to be known.
		const first = measuredBy(profile.continues ?? profile.takeAway?.parameter);
		const goesOn = profile.continues !== undefined && first >= 0 ? tests[first] : undefined;
		const letter = packs.find((p) => p.methodId === choice.id)?.label;
		tests.push({
			id: `t${i + 1}`,
			methodVersionId: choice.versionId,
			vial: goesOn?.vial ?? ++vials,
			...(letter ? { letter } : {}),
			...(thinned ? { thinned } : {}),
			...(first >= 0 && first !== i ? { after: [`t${first + 1}`] } : {})
		});
	}
	return tests;
}

/** A test that is added to an evening under way, under an id that no other device gives: in a vial of its own, or in one it goes on in. */
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
export const needsVial = (steps: Pick<EveningStep, 'act'>[]): boolean => steps.some((s) => s.act !== 'read');

/** What a test is called among the others of an evening. */
export function titlesOf(
	tests: { id: string; profile: Method; thinned?: Dilution }[]
): Record<string, string> {
	const title = (profile: Method) => parameterOf(profile.parameter)?.title ?? profile.parameter;
	return Object.fromEntries(
		tests.map(({ id, profile, thinned }) => {
			const twins = tests.filter((t) => t.profile.parameter === profile.parameter && !t.thinned === !thinned);
			return [id, (twins.length > 1 ? profile.name : title(profile)) + (thinned ? ', diluted' : '')];
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
