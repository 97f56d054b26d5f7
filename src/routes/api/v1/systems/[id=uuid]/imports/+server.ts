import { error, json } from '@sveltejs/kit';
import { bad } from '$core/base';
import { TakeIn } from '$lib/api/imports';
import type { ImportProgress } from '$lib/api/imports';
import { answer } from '$lib/server/http/answer';
import { parseJson } from '$lib/server/calculate';
import { streamed } from '$lib/server/http/files';
import { isUnavailable } from '$lib/server/db/connection';
import { filesOf } from '$lib/server/archive/sheet-import';
import { log } from '$lib/server/log';
import { parse } from '$lib/server/validation';
import { takeInThread } from '$lib/server/work/taking';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async ({ params, locals }) =>
	json({ imports: await filesOf(locals.asker, params.id) });

/** A sheet and how it is meant, as a form of two parts; answers line by line how far it is. */
export const POST: RequestHandler = async ({ params, request, locals, platform }) => {
	if (!/^multipart\/form-data\b/i.test(request.headers.get('content-type') ?? ''))
		error(415, 'A sheet is taken as a form (multipart/form-data) of file and choice.');
	const form = await request.formData().catch(() => undefined);
	const file = form?.get('file');
	if (!form || !(file instanceof File))
		return answer(bad('/file', 'is missing: send a form with file and choice'));
	const sent = parseJson(String(form.get('choice') ?? ''));
	const choice = sent.ok ? parse(TakeIn, sent.value) : sent;
	if (!choice.ok) return answer(choice);
	const bytes = new Uint8Array(await file.arrayBuffer());
	const progress = takeInThread({ asker: locals.asker, systemId: params.id, bytes, choice: choice.value });
	// Whoever leaves stops it, before its answer begins as well: nothing of the file is kept then, and it can be sent again.
	platform?.req.left?.addEventListener('abort', () => void progress.return(undefined), { once: true });
	// Refusals come before the first line: they have their own status.
	const first = await progress.next();
	return streamed(lines(first, progress), 'application/x-ndjson');
};

async function* lines(
	first: IteratorResult<ImportProgress>,
	rest: AsyncGenerator<ImportProgress>
): AsyncGenerator<string> {
	try {
		if (!first.done) yield `${JSON.stringify(first.value)}\n`;
		for await (const step of rest) yield `${JSON.stringify(step)}\n`;
	} catch (failure) {
		log.error({ err: failure }, 'an import failed');
		const message = isUnavailable(failure)
			? 'The server is too busy just now; nothing of this file was kept. Try again in a minute.'
			: 'Something went wrong on the server; nothing of this file was kept.';
		yield `${JSON.stringify({ kind: 'failed', message } satisfies ImportProgress)}\n`;
	}
}
