import { hash, verify } from '@node-rs/argon2';

/** Argon2id, 19 MiB, two passes, one lane: OWASP Password Storage Cheat Sheet, 2025. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** NIST SP 800-63B asks for eight; two more cost nobody anything. */
export const SHORTEST_PASSWORD = 10;
export const LONGEST_PASSWORD = 200;

export const hashed = (password: string): Promise<string> => hash(password, COST);
export const matches = (known: string, password: string): Promise<boolean> => verify(known, password);
