import { createCipheriv, createDecipheriv, createHash, createHmac, hkdfSync, randomBytes } from 'node:crypto';

/** What sessions and tokens are signed with: made at first start and kept under `.data/`, or named by TEVRIK_SECRET. */
export function serverSecret(): string {
	const secret = process.env['TEVRIK_SECRET'];
	if (!secret || secret.length < 32)
		throw new Error(
			'TEVRIK_SECRET is missing or shorter than 32 characters; start Tevrik with ./tevrik start'
		);
	return secret;
}

/** A secret nobody has to keep: it follows from the server's secret and a name. */
export const derivedSecret = (name: string): string =>
	createHmac('sha256', serverSecret()).update(name).digest('base64url');

/** A secret for a link or a program, and the hash that is kept of it: whoever reads the database cannot use it. */
export function newToken(prefix: string): { token: string; hash: string } {
	const token = `${prefix}${randomBytes(32).toString('base64url')}`;
	return { token, hash: tokenHash(token) };
}
export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');

const key = (purpose: string): Buffer => Buffer.from(hkdfSync('sha256', serverSecret(), '', purpose, 32));
/** AES-256-GCM: bytes of its nonce (NIST SP 800-38D) and tag. */
const NONCE = 12;
const TAG = 16;

/** Text that only this server reads again: for what is kept and holds secrets. */
export function sealed(text: string, purpose: string): string {
	const nonce = randomBytes(NONCE);
	const cipher = createCipheriv('aes-256-gcm', key(purpose), nonce);
	const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
	return Buffer.concat([nonce, cipher.getAuthTag(), body]).toString('base64');
}
/** The same text again; nothing where it was sealed with another secret, or changed. */
export function unsealed(text: string, purpose: string): string | undefined {
	try {
		const bytes = Buffer.from(text, 'base64');
		const decipher = createDecipheriv('aes-256-gcm', key(purpose), bytes.subarray(0, NONCE));
		decipher.setAuthTag(bytes.subarray(NONCE, NONCE + TAG));
		return Buffer.concat([decipher.update(bytes.subarray(NONCE + TAG)), decipher.final()]).toString('utf8');
	} catch {
		return undefined;
	}
}
