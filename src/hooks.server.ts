import {
	error,
	isHttpError,
	isRedirect,
	redirect,
	type Handle,
	type HandleServerError,
	type RequestEvent
} from '@sveltejs/kit';
import { v7 as uuid } from 'uuid';
import { asApi, problemDetails } from '$lib/server/http/answer';
import { OPERATIONS } from '$lib/api/operations';
import { asked } from '$lib/server/http/asked';
import type { Asker } from '$lib/server/identity/asker';
import { now } from '$lib/server/clock';
import { closeDatabase, isFull, isUnavailable, listening, wasAway, wasFull } from '$lib/server/db/connection';
import { longestBody, withBody, type Body } from '$lib/server/http/bodies';
import { hasControls, isForeignForm, onlyLooks } from '$lib/server/http/origin';
import { refusal, sentenceOf, unavailable, type Want } from '$lib/server/http/refusals';
import { log } from '$lib/server/log';
import { hasTwins } from '$lib/server/identity/cookies';
import { personBehind } from '$lib/server/identity/sessions';
import { placeOf } from '$lib/server/identity/attempts';
import { askerOfToken } from '$lib/server/identity/tokens';
import { habitsOf } from '$lib/server/stores/habits';
import { closePictures } from '$lib/server/work/pictures';
import { closePools } from '$lib/server/work/pool';
import { forSender } from '$lib/server/work/sender';
import { GivenUp, NoTurn, type Turn } from '$lib/server/work/turns';
import { habitsFrom, languageAsked } from '$lib/ui/habits';
import { HEAD } from '$lib/ui/shell/head';

/** Addresses that answer whoever asks: ways in, what needs no account, and links that carry a secret of their own. */
const OPEN = [
	/^\/(signin|signin\/passkey|signup|forgot|theme|notices)$/,
	/^\/\.well-known\/(security\.txt|change-password)$/,
	/^\/favicon\.ico$/,
	/^\/(reset|invite)\/[^/]+$/,
	/^\/calendar\/[^/]+$/,
	/^\/api\/v1(\/openapi\.json)?$/
];
/** The same of the API, as its document has it. */
const OPEN_API = new Set(OPERATIONS.flatMap((o) => (o.open ? [`/api/v1${o.path}`] : [])));
/** A calculation that there is not is told as such, to whoever asks. */
const isOpen = (path: string): boolean =>
	OPEN.some((address) => address.test(path)) || OPEN_API.has(path) || path.startsWith('/api/v1/calc/');
/** The letters every page is set in: they come with the page, so that it is laid out once. */
const EVERYWHERE = /-latin-wght-normal\./;
/** Asked by whoever looks after the server, many times a minute: nobody's session is looked up for them. */
const LOOKED_AFTER = ['/healthz', '/readyz'];

const ANOTHER =
	'Another person is signed in on this device now. This entry was not saved; it waits until you sign in again.';
const TWINS =
	'Your browser sent two sign-ins at once, and one of them may be somebody else’s. Both are deleted: reload this page and sign in again.';

/** What the person of a request counts in: asked for wherever a number is written for them. */
habitsFrom(() => asked.getStore() ?? {});

export const handle: Handle = (input) => listening(() => handled(input));

const handled: Handle = async ({ event, resolve }) => {
	let response: Response;
	try {
		response = await answered(event, resolve);
		// Pages and routes that failed for want of the database were noted by `handleError`.
		if (event.locals.unavailable) response = unavailable(event, event.locals.unavailable);
	} catch (failure) {
		const want = wantOf(failure);
		if (!want) throw failure;
		tell(failure, { method: event.request.method, route: event.route.id, want, err: failure });
		response = unavailable(event, want);
	}
	if (response.status === 403)
		log.info({ method: event.request.method, route: event.route.id, status: 403 }, 'refused');
	// Devices set their clocks by it, and tell our answers from those of whoever stands between.
	response.headers.set('tevrik-now', String(now().getTime()));
	if (response.headers.get('content-type') === 'text/html')
		response.headers.set('content-type', 'text/html; charset=utf-8');
	// A tank's house is in nobody's list of sites; those who are let in list nothing.
	if (!event.locals.known) response.headers.set('x-robots-tag', 'noindex');
	// What people keep is not kept again on disks between them and here.
	if (!response.headers.has('cache-control')) response.headers.set('cache-control', 'private, no-store');
	return response;
};

/** What is wanting, said so or told in other words by a library that could not reach it; nothing where it is a refusal, a way elsewhere or a fault. */
function wantOf(failure: unknown): Want | undefined {
	if (isRedirect(failure) || isHttpError(failure)) return undefined;
	if (failure instanceof NoTurn) return 'busy';
	if (isFull(failure) || wasFull()) return 'full';
	return isUnavailable(failure) || wasAway() ? 'away' : undefined;
}

/** That somebody left is nothing that whoever looks after the server has to know. */
const tell = (failure: unknown, about: object): void =>
	failure instanceof GivenUp ? log.info(about, 'given up') : log.warn(about, 'not just now');

/** Where a request comes from, as far as a proxy says it. */
function placeBehind(event: RequestEvent): string {
	try {
		return placeOf(event.getClientAddress());
	} catch {
		return 'unknown';
	}
}

/** What is still on its way is not waited for. */
function unread(
	event: RequestEvent,
	why: Extract<Body, { refused: unknown }>['refused'],
	longest: number
): Response {
	const close = { connection: 'close' };
	if (why === 'too slow')
		return refusal(event, 408, 'This came too slowly. Nothing of it was saved: send it again.', close);
	if (why === 'another coding')
		return refusal(event, 415, 'Bodies are taken as they are, or in gzip.', { 'accept-encoding': 'gzip' });
	if (why === 'not gzip') return refusal(event, 400, 'This is called gzip, and is not.');
	return why === 'too many'
		? refusal(event, 503, 'Too much is being sent here at once. Send this again in a moment.', {
				...close,
				'retry-after': '5'
			})
		: refusal(
				event,
				413,
				`This is longer than the ${Math.round(longest / 1_048_576)} MB that are taken here.`,
				close
			);
}

/** What an address of the API answers, said to whoever asks. */
async function allowedAt(event: RequestEvent, resolve: Parameters<Handle>[0]['resolve']): Promise<Response> {
	// No address has an OPTIONS of its own: the refusal names what there is.
	const allow = (await resolve(event)).headers.get('allow') ?? 'GET, HEAD';
	const all = [...new Set([...allow.split(', '), 'OPTIONS'])].join(', ');
	return new Response(null, { status: 204, headers: { allow: all } });
}

/** What is refused whoever asks, or answered to anybody; nothing where the one who asks decides. */
async function answeredToAll(
	event: RequestEvent,
	resolve: Parameters<Handle>[0]['resolve'],
	{ api, bearer }: Door
): Promise<Response | undefined> {
	const { request, url, route } = event;
	if (hasTwins(request.headers)) return refusal(event, 400, TWINS, { 'clear-site-data': '"cookies"' });
	if (api && route.id === null)
		return problemDetails(404, 'There is nothing at this address; /api/v1 lists what there is.');
	if (api && request.method === 'OPTIONS') return allowedAt(event, resolve);
	if ((bearer === undefined || !api) && isForeignForm(request, url))
		return refusal(event, 403, 'Forms are taken from Tevrik’s own pages only; programs send a token.');
	return undefined;
}
interface Door {
	/** Whether the API is asked, or a page. */
	api: boolean;
	/** The token that was sent. */
	bearer: string | undefined;
}

/** Who asks: by a token, of the API alone, or by a session. */
async function askerBehind(
	{ locals, request }: RequestEvent,
	{ api, bearer }: Door
): Promise<Asker | undefined> {
	locals.person = undefined;
	if (bearer !== undefined) return api ? askerOfToken(bearer) : undefined;
	const person = await personBehind(request.headers);
	if (!person) return undefined;
	locals.person = { name: person.name, sessionId: person.sessionId };
	return person.asker;
}

/** A stranger is told to sign in, and comes back to the page that was asked for. */
function signInFirst({ request, url }: RequestEvent, api: boolean): Response {
	if (api) {
		const refused = problemDetails(401, 'Sign in, or send a token.');
		refused.headers.set('www-authenticate', 'Bearer');
		return refused;
	}
	const back = onlyLooks(request.method) && url.pathname !== '/' ? url.pathname + url.search : '';
	redirect(303, back ? `/signin?to=${encodeURIComponent(back)}` : '/signin');
}

async function answered(event: RequestEvent, resolve: Parameters<Handle>[0]['resolve']): Promise<Response> {
	const { locals, url, cookies } = event;
	if (hasControls(url)) return refusal(event, 400, 'This address holds characters that no address has.');
	if (LOOKED_AFTER.includes(url.pathname)) return resolve(event);
	locals.at = now();
	locals.theme = cookies.get('theme') === 'night' ? 'night' : 'paper';
	const api = url.pathname.startsWith('/api/');
	const bearer = /^Bearer (\S{1,200})$/i.exec(event.request.headers.get('authorization') ?? '')?.[1];
	const toAll = await answeredToAll(event, resolve, { api, bearer });
	if (toAll) return toAll;
	const asker = await askerBehind(event, { api, bearer });
	const writer = event.request.headers.get('tevrik-person');
	if (writer !== null && asker && asker.userId !== writer && !onlyLooks(event.request.method))
		return api ? problemDetails(401, ANOTHER) : refusal(event, 401, ANOTHER);
	locals.known = asker !== undefined;
	// No route can forget to ask: without an asker there is nothing to hand to a store.
	Object.defineProperty(locals, 'asker', {
		get: () => asker ?? error(401, 'Sign in first.')
	});
	if (!asker && !isOpen(url.pathname)) return signInFirst(event, api);
	const longest = longestBody(event.request.method, url.pathname, locals.known);
	const body = await withBody(event.request, longest, placeBehind(event));
	if ('refused' in body) return unread(event, body.refused, longest);
	const { request } = body;
	// A program that asks as a browser does is told no page where it went wrong.
	if (api && url.pathname !== '/api/v1') request.headers.set('accept', 'application/json');
	event.request = request;
	const language = languageAsked(event.request.headers.get('accept-language'));
	locals.habits = { ...(language ? { language } : {}), ...(asker ? await habitsOf(asker) : {}) };
	const resolved = await inTurn(event, asker, bearer, () =>
		asked.run(locals.habits, async () => page(event, resolve))
	);
	return api && url.pathname !== '/api/v1' ? asApi(request, resolved) : resolved;
}

const page = (event: RequestEvent, resolve: Parameters<Handle>[0]['resolve']) =>
	resolve(event, {
		preload: ({ type, path }) => type === 'js' || type === 'css' || EVERYWHERE.test(path),
		transformPageChunk: ({ html }) =>
			html.replace(
				/%tevrik\.(theme|scheme|paper)%/g,
				(_all, word: keyof (typeof HEAD)['paper']) => HEAD[event.locals.theme][word]
			)
	});

/** Answers when it is this person's turn. */
function inTurn(
	event: RequestEvent,
	asker: Asker | undefined,
	bearer: string | undefined,
	answer: () => Promise<Response>
): Promise<Response> {
	const { locals, request, route, params, platform } = event;
	const turn: Turn = {
		who: asker?.userId ?? `place ${placeBehind(event)}`,
		// The same page on another device of theirs is another page; of writes none takes another's place.
		page: onlyLooks(request.method)
			? `${locals.person?.sessionId ?? bearer ?? ''} ${route.id} ${Object.values(params).join(' ')}`
			: undefined,
		request,
		signal: platform?.req.left
	};
	return forSender(turn, answer);
}

export const handleError: HandleServerError = ({ error: failure, event, status, message }) => {
	if (status === 404) return { message };
	const id = uuid();
	// The route and not the address: links carry secrets, and searches people's words.
	const about = { id, method: event.request.method, route: event.route.id };
	const want = wantOf(failure);
	if (want) {
		event.locals.unavailable = want;
		tell(failure, { ...about, want, err: failure });
		return { message: sentenceOf(want), id };
	}
	log.error({ ...about, err: failure }, 'unexpected');
	return { message: 'Something went wrong on the server. Nothing you saved is lost.', id };
};

process.on('sveltekit:shutdown', () => void Promise.all([closePools(), closePictures(), closeDatabase()]));
