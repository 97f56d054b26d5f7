import type { TechniqueRequest } from '$core/practice';
import { keepStored, readStored } from '$lib/client/device-storage';

/**
 * What was practised on this device, by person: never part of a tank's book. A thumb on glass and a hand on a mouse are not the same, so tries
 * stay on the device they were made on, unless they are taken along in a file.
 */
export type Tries = Required<TechniqueRequest>;
const nameOf = (person: string): string => `tevrik.practice.${person}`;
/** The newest of each kind count: a hand learns. Of end points and looks by instrument, parameter and light. */
const NEWEST = { endPoints: 40, plungers: 40, looks: 80 };
/** The newest of each group, in their order. */
function newest<T>(items: T[], groupOf: (item: T) => string, most: number): T[] {
	const seen = new Map<string, number>();
	return items
		.toReversed()
		.filter((item) => {
			const group = groupOf(item);
			seen.set(group, (seen.get(group) ?? 0) + 1);
			return (seen.get(group) ?? 0) <= most;
		})
		.toReversed();
}

export const noTries = (): Tries => ({ endPoints: [], plungers: [], looks: [] });

export const triesOf = (person: string): Tries => ({
	...noTries(),
	...readStored<Partial<Tries>>(nameOf(person))
});

export function addTries(person: string, more: TechniqueRequest): Tries {
	const before = triesOf(person);
	const tries: Tries = {
		endPoints: newest(
			[...before.endPoints, ...(more.endPoints ?? [])],
			(t) => `${t.instrument} ${t.parameter} ${t.light}`,
			NEWEST.endPoints
		),
		plungers: [...before.plungers, ...(more.plungers ?? [])].slice(-NEWEST.plungers),
		looks: newest([...before.looks, ...(more.looks ?? [])], (l) => `${l.parameter} ${l.light}`, NEWEST.looks)
	};
	keepStored(nameOf(person), tries);
	return tries;
}

export const replaceTries = (person: string, tries: Tries | undefined): void =>
	void keepStored(nameOf(person), tries);

/** `tevrik.practice/1`: the tries as they are asked of `hand`, in a file. */
export const asFile = (tries: Tries): string =>
	JSON.stringify({ format: 'tevrik.practice/1', ...tries }, undefined, '\t');

/** What a file says, still to be checked; undefined where it is none of ours. */
export function fromFile(text: string): object | undefined {
	try {
		const { format, ...tries } = JSON.parse(text) as { format?: string };
		return format === 'tevrik.practice/1' ? tries : undefined;
	} catch {
		return undefined;
	}
}
