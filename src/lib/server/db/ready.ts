import { sql } from 'drizzle-orm';
import { statfs } from 'node:fs/promises';
import { database, fullSince } from './connection';

/** An answer later than this is none, ms. */
const SOON = 2000;

/** After a write that found no room the server is not ready for so long, ms: unless nobody writes, the next one tells. */
const FULL_FOR = 30_000;
/** A tablespace grows by up to 4 MB at once, logs and temporary tables by tens: with less room writes begin to fail, bytes. */
const LEAST_ROOM = 64e6;

/** Whether there is room to write, as far as this process knows: on its own disk, and by what the database last said. */
async function hasRoom(): Promise<boolean> {
	if (fullSince() < FULL_FOR) return false;
	const folder = process.env['TEVRIK_DISK'];
	if (!folder) return true;
	const space = await statfs(folder);
	return space.bavail * space.bsize >= LEAST_ROOM;
}

/** Why no requests can be served, as a sentence; nothing where they can. */
export async function whyNotReady(): Promise<string | undefined> {
	if (!(await answers())) return 'the database does not answer';
	return (await hasRoom()) ? undefined : 'the disk is full: what people write is not kept';
}

/** Whether the database answers a question without tables, soon. */
async function answers(): Promise<boolean> {
	let timer: ReturnType<typeof setTimeout> | undefined;
	const late = new Promise<false>((done) => (timer = setTimeout(() => done(false), SOON)));
	const asked = database()
		.execute(sql`select 1`)
		.then(
			() => true,
			() => false
		);
	try {
		return await Promise.race([asked, late]);
	} finally {
		clearTimeout(timer);
	}
}
