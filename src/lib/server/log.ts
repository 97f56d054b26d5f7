import { pino } from 'pino';
import { derivedSecret } from './identity/secret';

/**
 * What the log keeps of an error: its kind, its number and where it came from. Never its words: a database's sentence repeats
 * what people wrote, and a statement its values.
 */
export function errorInLog(failure: unknown): Record<string, unknown> {
	if (!(failure instanceof Error)) return { type: typeof failure };
	const { errno, code } = (failure.cause ?? failure) as { errno?: number; code?: string };
	const query = (failure as { query?: string }).query;
	const ours = !query && !(failure.cause instanceof Error) && errno === undefined;
	return {
		type: failure.name,
		...(ours ? { message: failure.message.slice(0, 300) } : {}),
		...(errno === undefined ? {} : { errno }),
		...(code === undefined ? {} : { code }),
		...(query ? { statement: query.slice(0, 40) } : {}),
		at: (failure.stack ?? '')
			.split('\n')
			.filter((line) => /^\s+at /.test(line))
			.slice(0, 12)
			.map((line) => line.trim())
	};
}

/** Who, without their address: the same letters for the same person, which tell nobody else who it is. */
export const someone = (email: string): string =>
	derivedSecret(`in the log ${email.toLowerCase()}`).slice(0, 12);

export const log = pino({
	level: process.env['TEVRIK_LOG'] ?? 'info',
	base: null,
	serializers: { err: errorInLog }
});
