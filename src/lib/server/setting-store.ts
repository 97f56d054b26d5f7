import { eq } from 'drizzle-orm';
import { mustOperate, type Asker } from './asker';
import { database } from './db/connection';
import { setting } from './db/schema';

const OPEN_SIGN_UP = 'open sign-up';

/** Whether anyone may make an account; without it only whoever was invited. */
export async function signUpIsOpen(): Promise<boolean> {
	const [found] = await database().select().from(setting).where(eq(setting.name, OPEN_SIGN_UP));
	return found?.value === true;
}

export async function openSignUp(asker: Asker, open: boolean): Promise<void> {
	await mustOperate(asker);
	await database()
		.insert(setting)
		.values({ name: OPEN_SIGN_UP, value: open })
		.onDuplicateKeyUpdate({ set: { value: open } });
}
