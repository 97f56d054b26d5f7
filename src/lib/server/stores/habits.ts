import { eq } from 'drizzle-orm';
import type { Habits } from '../../api/habits';
import { mayMake, ofPerson, writing, type Asker } from '../identity/asker';
import { database } from '../db/connection';
import { user } from '../db/schema';

/** What a person counts in, and their language and hours; nothing of what they left to their browser. */
export const habitsOf = (asker: Asker): Promise<Habits> =>
	ofPerson(asker, ['habits'], async () => {
		const [found] = await database()
			.select({ habits: user.habits })
			.from(user)
			.where(eq(user.id, asker.userId));
		return found?.habits ?? {};
	});

/** Keeps them, all of them in place of those before. */
export async function saveHabits(asker: Asker, habits: Habits): Promise<Habits> {
	mayMake(asker);
	await writing(asker, asker.userId, (db) =>
		db.update(user).set({ habits }).where(eq(user.id, asker.userId))
	);
	return habits;
}
