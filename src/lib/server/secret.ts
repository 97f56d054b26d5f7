import { createHash, createHmac, randomBytes } from 'node:crypto';

/** What sessions and tokens are signed with: made at first start and kept under `.data/`, or named by TEVRIK_SECRET. */
export function serverSecret(): string {
	const secret = process.env['TEVRIK_SECRET'];
	if (!secret || secret.length < 32)
		throw new Error(
			'TEVRIK_SECRET is missing or shorter than 32 characters; start Tevrik with ./tevrik start'
		);
	return secret;
}

/** A password nobody has to know: it follows from the server's secret and a name. */
export const derivedPassword = (name: string): string =>
	createHmac('sha256', serverSecret()).update(name).digest('base64url');

/** A secret for a link or a program, and the hash that is kept of it: whoever reads the database cannot use it. */
export function newToken(prefix: string): { token: string; hash: string } {
	const token = `${prefix}${randomBytes(32).toString('base64url')}`;
	return { token, hash: tokenHash(token) };
}
export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');
