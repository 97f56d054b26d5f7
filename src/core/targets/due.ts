import { DAY, HOUR } from '../base';
import { PARAMETERS, parameterOf, type Phase } from '../catalogue';

/** Days between tests of a phase, by parameter. */
export const routineOf = (phase: Phase): Record<string, number> =>
	Object.fromEntries(
		PARAMETERS.flatMap(({ id, routine }) => (routine[phase] === undefined ? [] : [[id, routine[phase]]]))
	);

/** A session takes along what would be due within this share of its interval: fewer sessions, hardly more tests. */
const TAKE_ALONG = 0.2;

/** What happened that asks for a test of its own. */
export interface Trigger {
	at: Date;
	kind: 'water change' | 'death' | 'new pack';
	/** Of a new pack: what it measures. */
	parameter?: string;
}

/** A water change shows in magnesium within a day; cheap salt is short of it. */
const AFTER_CHANGE = { parameter: 'magnesium', days: 1, within: 7 };
/** Something that dies shows in ammonia at once, then in nitrite; what may have killed it is looked at beside. */
export const AFTER_DEATH = {
	parameters: ['ammonia', 'nitrite', 'ph', 'temperature', 'salinity'],
	within: 7
} as const;

/** Why the water asks for a look: its newest test is odd, it moved, it is out of its band, or too little is known. */
export type LookAgain = 'odd' | 'moved' | 'out' | 'unsure';
/** Why a test is due: by routine, days after its last; never done; what the water asks for; or what happened. */
export type DueReason =
	| { kind: 'routine'; last: string; everyDays: number }
	| { kind: 'never' | LookAgain | 'changed' | 'died' | 'new-pack' };

export interface DueTest {
	parameter: string;
	/** When it is due; in the past where it is overdue. */
	at: Date;
	/** Whether it belongs to a session held now. */
	now: boolean;
	why: DueReason;
}

/**
 * When each test is next due by the routine of the tank's phase, the most overdue first. `last` holds the newest test of
 * every parameter the keeper measures; parameters outside the routine are not asked for.
 *
 * @example dueByRoutine('settled', { alkalinity: new Date('2026-05-01') }, new Date('2026-05-06')).length // → 1
 */
export function dueByRoutine(phase: Phase, last: Record<string, Date>, now: Date): DueTest[] {
	return Object.entries(last)
		.flatMap(([parameter, at]): DueTest[] => {
			const days = parameterOf(parameter)?.routine[phase];
			if (days === undefined) return [];
			const due = new Date(at.getTime() + days * DAY);
			return [
				{
					parameter,
					at: due,
					now: due.getTime() - now.getTime() <= TAKE_ALONG * days * DAY,
					why: { kind: 'routine', last: at.toISOString(), everyDays: days }
				}
			];
		})
		.sort((a, b) => a.at.getTime() - b.at.getTime());
}

/**
 * When each test is next due and why, in one list: by routine; sooner where the forecast asks for a look (`nextTest` by
 * parameter, with its reason); by what happened since the last test; and what the routine asks for, stands on the shelf (`shelf`,
 * parameters) and was never measured. First what is wrong, then the most overdue.
 */
export function dueTests(
	phase: Phase,
	last: Record<string, Date>,
	nextTest: Record<string, { at: Date; why: LookAgain }>,
	triggers: Trigger[],
	now: Date,
	shelf: readonly string[] = []
): DueTest[] {
	const due = dueByRoutine(phase, last, now);
	for (const parameter of shelf)
		if (!last[parameter] && parameterOf(parameter)?.routine[phase] !== undefined)
			due.push({ parameter, at: now, now: true, why: { kind: 'never' } });
	const wrong = new Set<string>();
	const sooner = (parameter: string, at: Date, kind: Exclude<DueReason['kind'], 'routine'>) => {
		const known = due.find((d) => d.parameter === parameter);
		const test = { parameter, at, now: at.getTime() <= now.getTime() + SAME_SESSION, why: { kind } };
		if (!known) due.push(test);
		else if (at < known.at) Object.assign(known, { ...test, now: test.now || known.now });
	};
	for (const [parameter, { at, why }] of Object.entries(nextTest))
		if (last[parameter]) {
			sooner(parameter, at < now ? now : at, why);
			if (why !== 'unsure') wrong.add(parameter);
		}
	for (const t of triggers) {
		const age = (now.getTime() - t.at.getTime()) / DAY;
		const since = (parameter: string) => (last[parameter]?.getTime() ?? 0) > t.at.getTime();
		if (t.kind === 'water change' && age <= AFTER_CHANGE.within && last[AFTER_CHANGE.parameter]) {
			if (!since(AFTER_CHANGE.parameter))
				sooner(AFTER_CHANGE.parameter, new Date(t.at.getTime() + AFTER_CHANGE.days * DAY), 'changed');
		} else if (t.kind === 'death' && age <= AFTER_DEATH.within)
			for (const parameter of AFTER_DEATH.parameters) {
				if (since(parameter)) continue;
				sooner(parameter, now, 'died');
				wrong.add(parameter);
			}
		else if (t.kind === 'new pack' && t.parameter && age >= 0 && !since(t.parameter))
			sooner(t.parameter, now, 'new-pack');
	}
	const first = ({ parameter, now }: DueTest) => Number(!(now && wrong.has(parameter)));
	return due.sort((a, b) => first(a) - first(b) || a.at.getTime() - b.at.getTime());
}

/** What falls due within this time belongs to this session, ms. */
export const SAME_SESSION = 12 * HOUR;
