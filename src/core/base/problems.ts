/** Something a person can put right: where (a JSON pointer into what they sent) and what to change. */
export interface Problem {
	path: string;
	message: string;
}

/** What a calculation answers: its result, or everything that has to be put right first. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; problems: Problem[] };

export const good = <T>(value: T): Outcome<T> => ({ ok: true, value });

export const bad = <T = never>(path: string, message: string): Outcome<T> => ({
	ok: false,
	problems: [{ path, message }]
});

export const badAll = <T = never>(problems: Problem[]): Outcome<T> => ({ ok: false, problems });
