import { AsyncLocalStorage } from 'node:async_hooks';
import type { Turn } from './turns';

/** Who sent the request that is under way: what is computed for it waits in their turn, and for nobody once they have left. */
const sending = new AsyncLocalStorage<Turn>();

/** Does something for a sender. */
export const forSender = <T>(turn: Turn, work: () => T): T => sending.run(turn, work);

/** Whom the work under way is for; what the server asks of itself is its own. */
export const sender = (): Turn => sending.getStore() ?? { who: 'server' };
