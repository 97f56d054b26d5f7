import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { keepStored, keysOf, readStored } from './device-storage';

/**
 * Pictures that wait on this device, by keys of their own. They lie apart from what refers to them: a handful would fill the room that
 * readings have. Where the browser has no such place they lie beside the rest, as long as that has room.
 */
interface Schema extends DBSchema {
	/** JPEG, base64. */
	pictures: { key: string; value: string };
}
const STORE = 'pictures';
const BESIDE = 'tevrik.picture.';

let opened: Promise<IDBPDatabase<Schema>> | undefined;
const place = (): Promise<IDBPDatabase<Schema>> =>
	(opened ??= openDB<Schema>('tevrik', 1, { upgrade: (db) => void db.createObjectStore(STORE) })).catch(
		(failure: unknown) => {
			opened = undefined;
			throw failure;
		}
	);

/** On their way into that place. */
const underWay = new Map<string, string>();

/** Keeps a picture; whoever refers to it does so before. Done when it stands. */
export async function keepPicture(key: string, picture: string): Promise<void> {
	underWay.set(key, picture);
	try {
		await (await place()).put(STORE, picture, key);
	} catch {
		keepStored(BESIDE + key, picture);
	}
	underWay.delete(key);
}

/** The picture of a key; nothing where this device has none. */
export async function readPicture(key: string): Promise<string | undefined> {
	const beside = underWay.get(key) ?? readStored<string>(BESIDE + key);
	if (beside !== undefined) return beside;
	try {
		return await (await place()).get(STORE, key);
	} catch {
		return undefined;
	}
}

/** Forgets all pictures that nothing refers to any more; `referred` is asked after the keys are known. */
export async function sweepPictures(referred: () => ReadonlySet<string>): Promise<void> {
	const beside = keysOf(BESIDE);
	let keys: string[] = [];
	let db: IDBPDatabase<Schema> | undefined;
	try {
		db = await place();
		keys = await db.getAllKeys(STORE);
	} catch {
		// No such place: then there is nothing in it.
	}
	const needed = referred();
	for (const name of beside) if (!needed.has(name.slice(BESIDE.length))) keepStored(name, undefined);
	for (const key of keys) if (!needed.has(key)) await db!.delete(STORE, key);
}
