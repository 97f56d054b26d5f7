/** "1 test", "2 tests": a number agrees with its noun. */
export const plural = (count: number, one: string, many = `${one}s`): string =>
	`${count} ${count === 1 ? one : many}`;
