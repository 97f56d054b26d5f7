import type { Habits } from '$lib/api/habits';
import type { IncomingMessage } from 'node:http';
import type { Limit } from '$lib/server/http/answer';
import type { Want } from '$lib/server/http/refusals';
import type { Asker } from '$lib/server/identity/asker';

declare global {
	namespace App {
		interface Locals {
			/** Who asks; reading it refuses (401) where nobody is signed in. */
			readonly asker: Asker;
			/** Who is signed in by a session, for pages. */
			person: { name: string; sessionId: string } | undefined;
			/** Whether somebody is signed in, or a program sent a token. */
			known: boolean;
			theme: 'paper' | 'night';
			/** What the asker counts in, and the language of their dates: theirs, or their browser's. */
			habits: Habits;
			/** The server's time when it was asked. */
			at: Date;
			/** Why this request cannot be answered now. */
			unavailable?: Want;
		}
		interface Platform {
			/** The request as Node has it; `left` is aborted when its sender has left, or has been answered. */
			req: IncomingMessage & { left?: AbortSignal };
		}
		interface Error {
			message: string;
			/** Names the entry in the server's log. */
			id?: string;
			/** What was asked for too often. */
			limit?: Limit;
		}
	}
}

export {};
