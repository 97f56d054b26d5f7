import Type from 'typebox';
import { RunEvent } from '../../core/run';
import { exact, id } from './parts';

/** What begins a run: with which water, and its first event. */
export const NewRun = Type.Object({ systemId: id, sourceId: id, begin: RunEvent }, exact);
export type NewRun = Type.Static<typeof NewRun>;

/** An event as the server has it: `seq` is where it stands among those of its run. */
export const KnownEvent = Type.Object({ seq: Type.Integer(), event: RunEvent }, exact);
export type KnownEvent = Type.Static<typeof KnownEvent>;

export interface RunRecord {
	id: string;
	systemId: string;
	sourceId: string;
	startedAt: string;
	finishedAt: string | null;
}
