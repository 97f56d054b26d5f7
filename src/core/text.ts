/**
 * The beginning of a text, at most so many UTF-16 units long and never half a character: an emoji across the cut goes whole.
 * @example cut('ab😀', 3) // 'ab'
 */
export function cut(text: string, longest: number): string {
	const short = text.slice(0, longest);
	return short.isWellFormed() || !text.isWellFormed() ? short : short.slice(0, -1);
}

/**
 * Where text in data that came as JSON holds half a character (a lone surrogate), as a path; nothing where none does. Such text
 * cannot be stored: UTF-8 has no bytes for it.
 */
export function brokenTextIn(data: unknown, path = ''): string | undefined {
	if (typeof data === 'string') return data.isWellFormed() ? undefined : path;
	if (typeof data !== 'object' || data === null) return undefined;
	for (const [key, value] of Object.entries(data)) {
		if (!key.isWellFormed()) return path;
		const found = brokenTextIn(value, `${path}/${key}`);
		if (found !== undefined) return found;
	}
	return undefined;
}
