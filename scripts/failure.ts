/** Something the person at the terminal can put right: said as a sentence, without a stack trace. */
export class Failure extends Error {}

/** One line about what is being done, for whoever waits. */
export const say = (text: string): void => void process.stderr.write(`tevrik: ${text}\n`);

/** Ends the process with a sentence; what nobody foresaw also shows where it happened. */
export function fail(error: unknown): never {
	const sentence = sentenceFor(error);
	if (sentence) process.stderr.write(`tevrik: ${sentence}\n`);
	else
		process.stderr.write(
			`tevrik: something went wrong that should not have: ${(error as Error).stack ?? String(error)}\n`
		);
	process.exit(1);
}

/** Errors of the machine that a person can mend, in words. */
function sentenceFor(error: unknown): string | undefined {
	if (error instanceof Failure) return error.message;
	const e = error as {
		name?: string;
		code?: string;
		errno?: number;
		message?: string;
		cause?: unknown;
		constructor?: { name: string };
	};
	if (['NewerDatabase', 'MigrationRefused'].includes(e.constructor?.name ?? '')) return e.message;
	if (
		e.code === 'ENOSPC' ||
		e.errno === 1021 ||
		e.errno === 1114 ||
		/no space left|disk full/i.test(e.message ?? '')
	)
		return 'The disk is full. Free some space and start again; nothing that was saved is lost.';
	if (e.code === 'EACCES' || e.code === 'EROFS' || e.code === 'EPERM')
		return `This folder may not be written (${e.message}). Give yourself the right, or set TEVRIK_DATA to a folder of yours.`;
	if (e.code === 'ECONNREFUSED' || e.code === 'ENOTFOUND' || e.code === 'ETIMEDOUT')
		return 'The database that DATABASE_URL names does not answer. Check the address, and that it runs.';
	if (e.errno === 1045 || e.errno === 1044)
		return 'The database refuses the name or password in DATABASE_URL.';
	if (e.errno === 1049)
		return 'The database named in DATABASE_URL does not exist. Create it, empty, and start again.';
	return e.cause ? sentenceFor(e.cause) : undefined;
}
