import { v7 as uuid } from 'uuid';
import type { RunEvent } from '../../core/run';
import type { SaveEvent } from '../api/events';
import type { DoneStep, SavePlan } from '../api/plans';
import type { SavePhoto } from '../api/photos';
import type { CorrectReading, SaveReading, VoidReadings } from '../api/readings';
import type { NewRun } from '../api/runs';
import type { PendingWrite } from './pending-write';

/**
 * What a page can ask the server to write, each as a pending write: under ids made here, so that sending it twice changes
 * nothing. `about` is what it is in words, for the person who waits for it.
 */
type Kind = 'readings' | 'events';
const put = (path: string, body: unknown, about: string): PendingWrite => ({
	id: uuid(),
	path: `/api/v1${path}`,
	method: 'PUT',
	body,
	about
});

export const savingReading = (id: string, body: SaveReading, about: string): PendingWrite =>
	put(`/readings/${id}`, body, about);

/** The picture a reading was taken from, beside it. */
export const savingPhoto = (id: string, body: SavePhoto): PendingWrite => ({
	...put(`/photos/${id}`, body, 'the picture beside a reading'),
	quiet: true
});

/** Whether a write is that of saving this reading. */
export const savesReading =
	(id: string) =>
	(write: PendingWrite): boolean =>
		write.path === `/api/v1/readings/${id}`;

export const correctingReading = (id: string, body: CorrectReading, about: string): PendingWrite =>
	put(`/readings/${id}/correction`, body, about);

export const savingEvent = (id: string, body: SaveEvent, about: string): PendingWrite =>
	put(`/events/${id}`, body, about);

/** Out of the count, with a reason; it is kept. */
export const voiding = (kind: Kind, id: string, reason: string, about: string): PendingWrite =>
	put(`/${kind}/${id}/void`, { reason }, about);

export const restoring = (kind: Kind, id: string, about: string): PendingWrite => ({
	...put(`/${kind}/${id}/void`, {}, about),
	method: 'DELETE'
});

/** Void several readings of one tank, or restore them, all or none. */
export const voidingReadings = (body: VoidReadings, about: string): PendingWrite =>
	put('/readings/voids', body, about);

export const beginningRun = (id: string, body: NewRun): PendingWrite =>
	put(`/runs/${id}`, body, 'an evening at the bench');

export const sayingInRun = (id: string, event: RunEvent): PendingWrite => ({
	...put(`/runs/${id}/events/${event.id}`, event, 'a step at the bench'),
	quiet: true
});

/** Follows a plan, in place of the one before. */
export const followingPlan = (id: string, body: SavePlan): PendingWrite =>
	put(`/plans/${id}`, body, 'a plan to follow');

/** A step of a plan that was done, or left out. */
export const tickingOff = (plan: string, place: number, body: DoneStep, about: string): PendingWrite =>
	put(`/plans/${plan}/steps/${place}`, body, about);

export const takingTickBack = (plan: string, place: number, about: string): PendingWrite => ({
	...put(`/plans/${plan}/steps/${place}`, {}, about),
	method: 'DELETE'
});
