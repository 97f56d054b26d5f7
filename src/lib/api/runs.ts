import Type from 'typebox';
import { RunEvent } from '../../core/run';

const exact = { additionalProperties: false } as const;
const id = Type.String({ format: 'uuid' });

/** What begins an evening: with which water, and its first event. */
export const NewRun = Type.Object({ systemId: id, sourceId: id, begin: RunEvent }, exact);
export type NewRun = Type.Static<typeof NewRun>;

/** An event as the server has it: `seq` is where it stands among those of its run. */
export interface KnownEvent {
	seq: number;
	event: RunEvent;
}

export interface RunRecord {
	id: string;
	systemId: string;
	sourceId: string;
	startedAt: string;
	finishedAt: string | null;
}
