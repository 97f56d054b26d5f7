import { readFileSync } from 'node:fs';

/** The program that docs/api.md shows, in TypeScript. */
export const documentedProgram = (): string =>
	/```ts\n([\s\S]*?)```/.exec(readFileSync('docs/api.md', 'utf8'))![1]!;
