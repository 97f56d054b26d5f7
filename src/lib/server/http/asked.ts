import { AsyncLocalStorage } from 'node:async_hooks';
import type { Habits } from '../../api/habits';

/** What the person counts in whom the work under way is for: of a request its asker, of a calendar its owner. */
export const asked = new AsyncLocalStorage<Habits>();
