import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Book } from '../../src/core/formats';
import { SHIPPED_METHODS, withOwnChart } from '../../src/core/methods';
import { PHOTO_BYTES, PHOTO_SIDE } from '../../src/lib/api/photos';
import { bookFile } from '../../src/lib/server/archive/book-export';
import { takeBook } from '../../src/lib/server/archive/book-import';
import { database } from '../../src/lib/server/db/connection';
import { membership, photo, reading } from '../../src/lib/server/db/schema';
import type { Asker } from '../../src/lib/server/identity/asker';
import { saveMethod } from '../../src/lib/server/stores/methods';
import { deletePhoto, photosOf, pictureOf, savePhoto } from '../../src/lib/server/stores/photos';
import { kitChecksOf } from '../../src/lib/server/answers/kit-checks';
import { saveReading } from '../../src/lib/server/stores/readings';
import { saveSource, sourcesOf } from '../../src/lib/server/stores/systems';
import { again, newPerson, openStores, status } from '../support/stores';

const NOW = new Date('2026-05-06T20:10:00Z');
const AT = '2026-05-06T19:00:00.000Z';
let keeper: Asker;
let close: () => Promise<void>;
let tank: string;
let readings: (typeof reading.$inferSelect)[];

/** A large picture as a phone writes it: turned, with place and device. */
const fromPhone = async (): Promise<string> => {
	const noise = Buffer.from(Array.from({ length: 3 * 64 * 48 }, (_, i) => (i * 73 + (i >> 5) * 31) % 256));
	const file = await sharp(noise, { raw: { width: 64, height: 48, channels: 3 } })
		.resize(2200, 1650, { kernel: 'nearest' })
		.withExif({ IFD0: { Make: 'SecretMaker', Orientation: '6' }, IFD3: { GPSLatitude: '53/1 20/1 0/1' } })
		.withMetadata({ orientation: 6 })
		.jpeg({ quality: 40 })
		.toBuffer();
	return file.toString('base64');
};

beforeAll(async () => {
	({ keeper, close } = await openStores(NOW));
	[{ systemId: tank }] = (await database().select().from(reading).limit(1)) as [typeof reading.$inferSelect];
	readings = await database().select().from(reading).where(eq(reading.systemId, tank)).limit(10);
});
afterAll(() => close());

const MARKS = { of: 'syringe' as const, zero: { x: 0.5, y: 0.9 }, full: { x: 0.5, y: 0.1 } };
/** A reading of the demo that no other test has, and a picture that lies beside it. */
const bare = () => readings.pop()!.id;
async function photographed(): Promise<{ of: string; id: string }> {
	const [of, id] = [bare(), uuid()];
	const saved = await savePhoto(again(keeper), id, {
		readingId: of,
		at: AT,
		picture: await fromPhone(),
		marks: MARKS
	});
	expect(saved.ok).toBe(true);
	return { of, id };
}

describe('the picture beside a reading', () => {
	it('is written anew: upright, scaled, within its size, without place or device; sending it again changes nothing', async () => {
		const [of, id] = [bare(), uuid()];
		const sent = { readingId: of, at: AT, picture: await fromPhone(), marks: MARKS };
		expect(Buffer.from(sent.picture, 'base64').includes('SecretMaker')).toBe(true);
		const saved = await savePhoto(again(keeper), id, sent);
		expect(saved.ok && saved.value).toMatchObject({
			readingId: of,
			width: 960,
			height: PHOTO_SIDE,
			marks: MARKS
		});
		expect(await savePhoto(again(keeper), id, sent)).toEqual(saved);
		const kept = await pictureOf(again(keeper), id);
		expect(kept.length).toBeLessThanOrEqual(PHOTO_BYTES);
		expect(kept.includes('SecretMaker') || kept.includes('Exif')).toBe(false);
		expect(await sharp(kept).metadata()).toMatchObject({ format: 'jpeg', width: 960, height: 1280 });
		expect((await photosOf(of)).map((p) => p.id)).toEqual([id]);
	});

	it('is for members of its tank: a viewer sees it, nobody else does, and only who may write deletes it', async () => {
		const { of, id } = await photographed();
		const [viewer, stranger] = [await newPerson('Vera'), await newPerson('Sten')];
		await database().insert(membership).values({ userId: viewer.userId, systemId: tank, role: 'viewer' });
		const answers = async (who: Asker) => [
			await status(pictureOf(again(who), id)),
			await status(deletePhoto(again(who), id)),
			await status(savePhoto(again(who), uuid(), { readingId: of, at: AT, picture: await fromPhone() }))
		];
		expect(await answers(viewer)).toEqual([200, 403, 403]);
		expect(await answers(stranger)).toEqual([404, 404, 404]);
		expect(await status(pictureOf(again(keeper), id))).toBe(200);
	});

	it('refuses what is none, a bomb, and a reading that is not there', async () => {
		const of = bare();
		const problem = async (picture: string, readingId = of) => {
			const outcome = await savePhoto(again(keeper), uuid(), { readingId, at: AT, picture });
			return outcome.ok ? '' : outcome.problems[0]!.path;
		};
		const bomb = await sharp({ create: { width: 9000, height: 9000, channels: 3, background: 'white' } })
			.png()
			.toBuffer();
		expect(await problem(bomb.toString('base64'))).toBe('/picture');
		expect(
			await problem(
				Buffer.from(
					'<svg xmlns="http://www.w3.org/2000/svg" width="80" height="80"><rect width="80" height="80"/></svg>'
				).toString('base64')
			)
		).toBe('/picture');
		expect(await problem((await fromPhone()).slice(0, 4000))).toBe('/picture');
		expect(await problem(await fromPhone(), uuid())).toBe('/readingId');
	});

	it('goes with the book, under another id too, and a foreign file’s picture is written anew', async () => {
		const { of, id } = await photographed();
		let text = '';
		for await (const piece of await bookFile(again(keeper), tank)) text += piece;
		const book = JSON.parse(text) as Book;
		const held = book.photos!.find((p) => p.id === id)!;
		const foreign = { ...book, photos: [{ ...held, picture: await fromPhone() }] };
		const other = uuid();
		expect(await takeBook(again(keeper), other, foreign)).toEqual({ ok: true, value: { id: other } });
		const [copy] = await database().select().from(photo).where(eq(photo.systemId, other));
		expect([copy!.id === id, copy!.readingId === of]).toEqual([false, false]);
		expect(Buffer.from(copy!.jpeg, 'base64').includes('SecretMaker')).toBe(false);
		const broken = { ...book, photos: [{ ...held, readingId: uuid() }] };
		const refused = await takeBook(again(keeper), uuid(), broken);
		expect(refused.ok ? '' : refused.problems[0]!.path).toBe('/photos/0/readingId');
	});

	it('is gone for good once deleted, also where a device sends it late', async () => {
		const { of, id } = await photographed();
		await deletePhoto(again(keeper), id);
		const late = await savePhoto(again(keeper), id, {
			readingId: of,
			at: AT,
			picture: await fromPhone()
		});
		expect(late.ok && late.value.id).toBe(id);
		const [row] = await database().select().from(photo).where(eq(photo.id, id));
		expect(row).toMatchObject({ gone: true, jpeg: '', marks: null });
		expect(await status(deletePhoto(again(keeper), id))).toBe(404);
		expect(await status(pictureOf(again(keeper), id))).toBe(404);
		expect(await photosOf(of)).toEqual([]);
	});
});

describe('eye and photograph', () => {
	it('are held against water of known content: the scorecard says which sees better', async () => {
		const card = SHIPPED_METHODS.find((m) => m.reads === 'shades' && m.parameter === 'phosphate')!;
		const kit = await saveMethod(
			again(keeper),
			uuid(),
			{ profile: withOwnChart({ ...card, name: 'Phosphate, seen twice' }) },
			NOW
		);
		if (!kit.ok) throw new Error(JSON.stringify(kit.problems));
		const shades = card.reads === 'shades' ? card.shades : [];
		const [low, high] = [shades[2]!, shades[3]!] as [number, number];
		const known = uuid();
		const made = await saveSource(again(keeper), known, {
			systemId: tank,
			kind: 'reference',
			name: 'Known phosphate',
			content: { values: { phosphate: { value: low + 0.4 * (high - low), standardUncertainty: 0.001 } } }
		} as Parameters<typeof saveSource>[2]);
		expect(made.ok).toBe(true);
		for (let i = 0; i < 8; i++) {
			const camera = {
				between: [low, high] as [number, number],
				position: 0.38 + 0.01 * (i % 4),
				stepUncertainty: 0.08,
				distance: 0.5
			};
			const saved = await saveReading(again(keeper), uuid(), {
				sourceId: known,
				sampleId: uuid(),
				takenAt: new Date(NOW.getTime() - i * 3_600_000).toISOString(),
				methodVersionId: kit.value.versionId,
				reading: {
					between: [low, high],
					position: camera.position,
					camera,
					eye: { between: [low, high], position: 0.75 }
				}
			});
			expect(saved.ok, JSON.stringify(saved)).toBe(true);
		}
		const checks = await kitChecksOf(again(keeper), tank, { of: 'phosphate' });
		const { card: its } = checks.kits.find((k) => k.name === 'Phosphate, seen twice')!;
		expect(its.seeing).toMatchObject({ readings: 8, cameraNearer: 8, better: 'camera' });
		expect(its.seeing!.eye).toBeGreaterThan(5 * its.seeing!.camera);
		expect((await sourcesOf(again(keeper), tank)).some((s) => s.id === known)).toBe(true);
	});
});
