import { json } from '@sveltejs/kit';
import { SavePhoto } from '$lib/api/photos';
import { answer, parsedBody } from '$lib/server/http/answer';
import { deletePhoto, pictureOf, savePhoto } from '$lib/server/stores/photos';
import type { RequestHandler } from './$types';

/** The picture itself: a JPEG, for members of its tank, kept by nobody between. */
export const GET: RequestHandler = async ({ params, locals }) =>
	new Response(new Uint8Array(await pictureOf(locals.asker, params.id)), {
		headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, no-store' }
	});

/** Keeps a picture under an id the client made; repeating it changes nothing. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SavePhoto);
	return answer(body.ok ? await savePhoto(locals.asker, params.id, body.value) : body);
};

/** Deletes it for good. */
export const DELETE: RequestHandler = async ({ params, locals }) =>
	json(await deletePhoto(locals.asker, params.id));
