import { sql } from 'drizzle-orm';
import { database } from './connection';

/** An answer later than this is none, ms. */
const SOON = 2000;

/** Whether the database answers a question without tables, soon. */
export async function isReady(): Promise<boolean> {
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
