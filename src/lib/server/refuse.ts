import { error, isHttpError } from '@sveltejs/kit';

/**
 * What is not there, or not for whoever asks: an HTTP status and a sentence. Stores, answers and archives refuse by this alone; pages
 * and API make of it what they show. What somebody can put right in what they sent is a `Problem` instead.
 */
export function refuse(status: number, sentence: string): never {
	error(status, sentence);
}

/** Whether that is what was thrown, of this status where one is named. */
export const wasRefused = (
	failure: unknown,
	status?: number
): failure is { status: number; body: App.Error } => isHttpError(failure, status);
