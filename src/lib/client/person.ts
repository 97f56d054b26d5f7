/**
 * Whose page this is. Every write names them: where somebody else has signed in on this device meanwhile, in another tab, the server
 * refuses it with 401 and nothing of one person is kept as another's.
 */
let person: string | undefined;

export const pageIsOf = (id: string | undefined): void => void (person = id);

/** The header that names whose write this is. */
export const named = (by: string | undefined = person): Record<string, string> =>
	by === undefined ? {} : { 'tevrik-person': by };
