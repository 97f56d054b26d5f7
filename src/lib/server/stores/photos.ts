import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import { bad, good, type Outcome } from '../../../core/base';
import { PHOTOS_OF_A_TANK, type Photo, type SavePhoto } from '../../api/photos';
import { CLOCK_SLACK, now } from '../clock';
import { database, type Connection } from '../db/connection';
import { photo, reading } from '../db/schema';
import { mayUse, writing, type Asker } from '../identity/asker';
import { mayAddPicture } from '../identity/attempts';
import type { CleanPicture } from '../work/clean-picture';
import { cleanPicture } from '../work/pictures';
import { refuse } from '../refuse';

const columns = {
	id: photo.id,
	systemId: photo.systemId,
	readingId: photo.readingId,
	at: photo.at,
	width: photo.width,
	height: photo.height,
	marks: photo.marks
};
const toPhoto = ({
	systemId: _,
	at,
	...row
}: Omit<typeof photo.$inferSelect, 'jpeg' | 'byUserId' | 'gone'>): Photo => ({
	...row,
	at: at.toISOString()
});

/**
 * Keeps a picture beside its reading: decoded and written anew, so that of what was sent nothing but the pixels stays, turned upright,
 * scaled and small. Sending it again changes nothing, also when it was deleted meanwhile. Problems: no picture, too many pixels, no such reading of the asker's.
 */
export async function savePhoto(asker: Asker, id: string, sent: SavePhoto): Promise<Outcome<Photo>> {
	const db = database();
	const [of] = await db
		.select({ systemId: reading.systemId })
		.from(reading)
		.where(eq(reading.id, sent.readingId));
	if (!of) return bad('/readingId', 'is not a reading of yours');
	await mayUse(asker, of.systemId, 'write');
	const at = new Date(sent.at);
	if (at.getTime() > now().getTime() + CLOCK_SLACK) return bad('/at', 'lies in the future');
	// Deleted or not: a device that sends late brings nothing back.
	const [before] = await db.select(columns).from(photo).where(eq(photo.id, id));
	if (before)
		return before.systemId === of.systemId ? good(toPhoto(before)) : refuse(409, 'This id is in use.');
	await mayAddPicture(asker.userId, of.systemId);
	const clean = await cleanPicture(Buffer.from(sent.picture, 'base64'));
	if (!clean.ok) return clean;
	await writing(asker, of.systemId, async (tx) => {
		await tx
			.insert(photo)
			.values({
				id,
				systemId: of.systemId,
				readingId: sent.readingId,
				byUserId: asker.userId,
				at,
				marks: sent.marks ?? null,
				...rowOf(clean.value)
			})
			.onDuplicateKeyUpdate({ set: { id } });
		const beyond = await tx
			.select({ id: photo.id })
			.from(photo)
			.where(and(eq(photo.systemId, of.systemId), eq(photo.gone, false)))
			.orderBy(desc(photo.at))
			.limit(100)
			.offset(PHOTOS_OF_A_TANK);
		if (beyond.length)
			await tx.delete(photo).where(
				inArray(
					photo.id,
					beyond.map((p) => p.id)
				)
			);
	});
	return good(toPhoto((await photoHeld(db, id))!));
}

/** A picture's columns. */
export const rowOf = ({ jpeg, width, height }: CleanPicture) => ({
	jpeg: Buffer.from(jpeg).toString('base64'),
	width,
	height
});

async function photoHeld(db: Connection, id: string) {
	const [held] = await db
		.select(columns)
		.from(photo)
		.where(and(eq(photo.id, id), eq(photo.gone, false)));
	return held;
}

/** The picture itself, for members of its tank. */
export async function pictureOf(asker: Asker, id: string): Promise<Buffer> {
	const [held] = await database()
		.select({ systemId: photo.systemId, jpeg: photo.jpeg })
		.from(photo)
		.where(and(eq(photo.id, id), eq(photo.gone, false)));
	if (!held) refuse(404, 'There is no such picture.');
	await mayUse(asker, held.systemId, 'read');
	return Buffer.from(held.jpeg, 'base64');
}

/** Deletes a picture for good. */
export async function deletePhoto(asker: Asker, id: string): Promise<{ id: string }> {
	const held = await photoHeld(database(), id);
	if (!held) refuse(404, 'There is no such picture.');
	await mayUse(asker, held.systemId, 'write');
	await writing(asker, held.systemId, (tx) =>
		tx.update(photo).set({ gone: true, jpeg: '', marks: null }).where(eq(photo.id, id))
	);
	return { id };
}

/** The pictures beside a reading, oldest first. The caller has asked whether it may be read. */
export async function photosOf(readingId: string): Promise<Photo[]> {
	const found = await database()
		.select(columns)
		.from(photo)
		.where(and(eq(photo.readingId, readingId), eq(photo.gone, false)))
		.orderBy(asc(photo.at));
	return found.map(toPhoto);
}
