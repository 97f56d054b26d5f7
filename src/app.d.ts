import type { Asker } from '$lib/server/asker';

declare global {
	namespace App {
		interface Locals {
			/** Who asks; reading it refuses (401) where nobody is signed in. */
			readonly asker: Asker;
			/** Who is signed in by a session, for pages. */
			person: { name: string; sessionId: string } | undefined;
			theme: 'paper' | 'night';
		}
		interface Error {
			message: string;
			/** Names the entry in the server's log. */
			id?: string;
		}
	}
}

export {};
