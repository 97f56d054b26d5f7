import { closeDatabase } from '../src/lib/server/db/connection';
import { waitingMail } from '../src/lib/server/identity/mail';
import { backup, restore } from './backup-file';
import { fail, say } from './failure';
import { bringStoredUpToDate, withDatabase } from './stored';

/** `tevrik backup FILE`, `tevrik restore FILE` and `tevrik mail`. */
async function mail(): Promise<void> {
	const mails = await waitingMail();
	for (const m of mails) console.log(`${m.at.toISOString()} to ${m.recipient}: ${m.subject}\n\n${m.body}\n`);
	if (!mails.length) say('no mail waits');
}

const [command, file] = process.argv.slice(2);
try {
	await withDatabase(async () => {
		try {
			await bringStoredUpToDate();
			if (command === 'backup') await backup(file!);
			else if (command === 'restore') {
				await restore(file!);
				// An older copy may lack methods that came since.
				await bringStoredUpToDate();
			} else await mail();
		} finally {
			await closeDatabase();
		}
	});
} catch (error) {
	fail(error);
}
