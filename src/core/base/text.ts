/**
 * The beginning of a text, at most so many UTF-16 units long and never half a character: an emoji across the cut goes whole.
 * @example cut('ab😀', 3) // 'ab'
 */
export function cut(text: string, longest: number): string {
	const short = text.slice(0, longest);
	return short.isWellFormed() || !text.isWellFormed() ? short : short.slice(0, -1);
}

/** Control characters (Unicode category Cc) but for tab and line ends: no text that people write holds them. */
// eslint-disable-next-line no-control-regex
const CONTROLS = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/;
/** In a name also tabs, line ends and what turns the direction of all that follows (Unicode UAX #9: embeddings, overrides, isolates). */
const NOT_IN_NAMES = '\\u0000-\\u001f\\u007f-\\u009f\\u2028\\u2029\\u202a-\\u202e\\u2066-\\u2069';
const IN_NAMES = new RegExp(`[${NOT_IN_NAMES}]`);
/** A name as a schema's pattern: one line with something to see in it. */
export const NAME_PATTERN = `^(?=.*\\S)[^${NOT_IN_NAMES}]*$`;

/** What is wrong with a name as it was typed, beyond its length; nothing where it is one line of letters. */
export const flawOfName = (name: string): string | undefined =>
	IN_NAMES.test(name)
		? 'must be one line without control characters'
		: name.isWellFormed()
			? undefined
			: 'holds half a character; write it again, or leave out the emoji at its end';

/** Keys of data whose text is a name. */
const NAMES = new Set(['name', 'label', 'batch']);

/**
 * Text in data that came as JSON which cannot be kept: half a character (a lone surrogate: UTF-8 has no bytes for it), control
 * characters, and in names more than one line. Its path and what is wrong; nothing where all is well.
 */
export function flawOfText(
	data: unknown,
	path = '',
	key = ''
): { path: string; message: string } | undefined {
	if (typeof data === 'string') {
		if (NAMES.has(key)) {
			const message = flawOfName(data);
			return message === undefined ? undefined : { path, message };
		}
		if (!data.isWellFormed())
			return { path, message: 'holds half a character; write it again, or leave out the emoji at its end' };
		return CONTROLS.test(data) ? { path, message: 'must hold no control characters' } : undefined;
	}
	if (typeof data !== 'object' || data === null) return undefined;
	for (const [name, value] of Object.entries(data)) {
		if (!name.isWellFormed()) return { path, message: 'has a key that holds half a character' };
		const found = flawOfText(value, `${path}/${name}`, name);
		if (found) return found;
	}
	return undefined;
}
