import type { Asker } from '$lib/server/asker';

declare global {
	namespace App {
		interface Locals {
			asker: Asker;
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
