import { desc } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { mustOperate, type Asker } from './asker';
import { now } from '../clock';
import { database } from '../db/connection';
import { mail } from '../db/schema';
import { sealed, unsealed } from './secret';

/** As many as anyone looks back on. */
const MOST = 200;

const SEALED_FOR = 'mail';

/** Puts a mail into the outbox: a stand-in for a mail service. Its text is sealed, since links in it let people in. */
export async function sendMail(recipient: string, subject: string, lines: string[]): Promise<void> {
	await database()
		.insert(mail)
		.values({ id: uuid(), at: now(), recipient, subject, body: sealed(lines.join('\n\n'), SEALED_FOR) });
}

/** What would have gone out, newest first, for whoever runs the server. */
export async function outgoingMail(asker: Asker) {
	await mustOperate(asker);
	return waitingMail();
}

/** The same without asking who: for the command on the server's own machine. */
export async function waitingMail() {
	const rows = await database().select().from(mail).orderBy(desc(mail.at), desc(mail.id)).limit(MOST);
	return rows.map((row) => ({
		...row,
		body: unsealed(row.body, SEALED_FOR) ?? 'This was sealed with another secret and cannot be read here.'
	}));
}
