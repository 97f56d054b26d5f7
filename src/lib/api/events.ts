import Type from 'typebox';
import { WaterEvent } from '../../core/trend';
import { exact, id, moment } from './parts';

/** What a client sends to keep an event of a tank. */
export const SaveEvent = Type.Object({ systemId: id, at: moment, event: WaterEvent }, exact);
export type SaveEvent = Type.Static<typeof SaveEvent>;

/** An event as it stands. */
export const TankEvent = Type.Object({ id, at: moment, event: WaterEvent }, exact);
export type TankEvent = Type.Static<typeof TankEvent>;
