import Type from 'typebox';
import { WaterEvent } from '../../core/trend';

const exact = { additionalProperties: false } as const;

/** What a client sends to keep an event of a tank. */
export const SaveEvent = Type.Object(
	{ systemId: Type.String({ format: 'uuid' }), at: Type.String({ format: 'date-time' }), event: WaterEvent },
	exact
);
export type SaveEvent = Type.Static<typeof SaveEvent>;

/** An event as it stands. */
export interface TankEvent {
	id: string;
	at: string;
	event: WaterEvent;
}
