/** Control characters, as they are or written as %09: no address of ours has them, and browsers drop some of them. */
// eslint-disable-next-line no-control-regex
const CONTROLS = /[\u0000-\u001f\u007f]|%(?:[01][0-9a-f]|7f)/i;
export const hasControls = (url: URL): boolean => CONTROLS.test(url.pathname) || CONTROLS.test(url.search);

const FORMS = ['application/x-www-form-urlencoded', 'multipart/form-data', 'text/plain'];
const LOOKS = ['GET', 'HEAD', 'OPTIONS'];
/** A request that only looks. */
export const onlyLooks = (method: string): boolean => LOOKS.includes(method);

/**
 * Whether a request may be a foreign page's form, sent with the cookies of whoever looks at that page. Programs with a token
 * bring no cookies, and need not say where they come from.
 */
export function isForeignForm(request: Request, url: URL): boolean {
	const type = request.headers.get('content-type')?.split(';', 1)[0]?.trim().toLowerCase() ?? '';
	return !onlyLooks(request.method) && FORMS.includes(type) && request.headers.get('origin') !== url.origin;
}
