/**
 * The cookies of sessions and of second steps, read as strictly as they are written: by their exact names, once each. A page on a
 * sibling subdomain can set cookies for this host too; the prefix `__Host-` is what browsers refuse it (RFC 6265bis, 4.1.3.2).
 */

/** Whether pages are reached by https. */
export const isHttps = (): boolean => (process.env['ORIGIN'] ?? '').startsWith('https:');

/** What the names of the cookies of the accounts' library begin with. */
export const cookiePrefix = (): string => (isHttps() ? '__Host-tevrik' : 'tevrik');
export const sessionCookie = (): string => `${cookiePrefix()}.session_token`;
export const challengeCookie = (): string => `${cookiePrefix()}.two_factor`;

/** Name and value of each cookie of a request, in the order sent. */
const pairsOf = (headers: Headers): [name: string, value: string][] =>
	(headers.get('cookie') ?? '').split(';').flatMap((pair) => {
		const [name, value] = pair.split(/=(.*)/s, 2) as [string, string | undefined];
		return value === undefined ? [] : [[name.trim(), value.trim()]];
	});

/** The value of a cookie; nothing where it is missing or stands there twice. */
export function cookieOf(headers: Headers, name: string): string | undefined {
	const found = pairsOf(headers).filter(([n]) => n === name);
	return found.length === 1 ? found[0]![1] || undefined : undefined;
}

/** Whether a cookie of the accounts' library stands there twice: one of them is somebody else's, and nobody can tell which. */
export function hasTwins(headers: Headers): boolean {
	const ours = pairsOf(headers).flatMap(([name]) => (name.startsWith(`${cookiePrefix()}.`) ? [name] : []));
	return new Set(ours).size < ours.length;
}

/** Headers with that one cookie and nothing beside it: what is asked about a session is asked about exactly this value. */
export const onlyCookie = (name: string, value: string): Headers =>
	new Headers({ cookie: `${name}=${value}` });
