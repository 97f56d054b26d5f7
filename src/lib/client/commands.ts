import { v7 as uuid } from 'uuid';
import type { RunEvent } from '../../core/run';
import type { SaveEvent } from '../api/events';
import type { Habits } from '../api/habits';
import type { TakenLabSheet } from '../api/labs';
import type { SaveMethod, SavePack, SavedMethod } from '../api/methods';
import type { DoneStep, SavePlan } from '../api/plans';
import type { SavePhoto } from '../api/photos';
import type { CorrectReading, SaveReading, VoidReadings } from '../api/readings';
import type { NewRun } from '../api/runs';
import type { SaveSupplement } from '../api/supplements';
import type { ChangeSystem, SaveSource } from '../api/systems';
import { call } from './api';
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
/** `picture` is the key under which the picture itself lies on this device. */
export const savingPhoto = (id: string, body: Omit<SavePhoto, 'picture'>, picture: string): PendingWrite => ({
	...put(`/photos/${id}`, body, 'the picture beside a reading'),
	picture,
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

/** What a page waits for the answer of, and does not send by itself later: forms that say beside a field what is wrong with it. */
export const saveHabits = (body: Habits) => call('PUT', '/api/v1/habits', body);
export const saveMethod = (id: string, body: SaveMethod) =>
	call<SavedMethod>('PUT', `/api/v1/methods/${id}`, body);
/** A method out of a file: what it is, the server finds out. */
export const takeMethod = (id: string, profile: unknown) =>
	call('PUT', `/api/v1/methods/${id}`, { profile } satisfies Unread<SaveMethod>);
export const savePack = (id: string, body: SavePack) => call('PUT', `/api/v1/packs/${id}`, body);
export const removePack = (id: string) => call('DELETE', `/api/v1/packs/${id}`);
export const saveSupplement = (id: string, body: SaveSupplement) =>
	call('PUT', `/api/v1/supplements/${id}`, body);
export const takeSupplement = (id: string, profile: unknown) =>
	call('PUT', `/api/v1/supplements/${id}`, { profile } satisfies Unread<SaveSupplement>);
export const removeSupplement = (id: string) => call('DELETE', `/api/v1/supplements/${id}`);
export const changeTank = (id: string, body: ChangeSystem) => call('PATCH', `/api/v1/systems/${id}`, body);
export const saveWater = (id: string, body: SaveSource) => call('PUT', `/api/v1/sources/${id}`, body);
export const saveEvent = (id: string, body: SaveEvent) => call('PUT', `/api/v1/events/${id}`, body);
export const voidEvent = (id: string, reason: string) => call('PUT', `/api/v1/events/${id}/void`, { reason });
export const removePhoto = (id: string) => call('DELETE', `/api/v1/photos/${id}`);
export const takeBook = (tank: string, file: Blob) => call('PUT', `/api/v1/systems/${tank}/book`, file);
export const takeLabSheet = (tank: string, text: string) =>
	call<TakenLabSheet>('POST', `/api/v1/systems/${tank}/lab-sheets`, { text });
export const takeBackSheet = (tank: string, id: string) =>
	call('DELETE', `/api/v1/systems/${tank}/imports/${id}`);

/** A body whose profile nobody has looked at yet. */
type Unread<T extends { profile: unknown }> = Omit<T, 'profile'> & { profile: unknown };
