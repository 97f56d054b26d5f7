import { invalidateAll } from '$app/navigation';
import type { ImportProgress, TakenFile } from '$lib/api/imports';
import { call, problemsIn } from '$lib/client/api';
import type { Looked } from '$lib/sheets/look';
import { plainLayout, type SheetFile } from './sheet-reader.svelte';

const LOST = 'The network went while the file was on its way. Importing it again adds nothing twice.';

/** Sends a sheet and follows how far the server is with it. */
export function openUpload(system: string) {
	let progress: ImportProgress | undefined = $state.raw();
	let leaving: AbortController | undefined;
	const address = `/api/v1/systems/${system}/imports` as const;

	async function send(file: SheetFile, sheet: Looked) {
		const form = new FormData();
		const { id, name } = file;
		const { separator } = sheet;
		form.set('choice', JSON.stringify({ id, name, separator, layout: plainLayout(sheet.layout) }));
		form.set('file', file.bytes);
		leaving = new AbortController();
		progress = { kind: 'progress', done: 0, of: sheet.count };
		try {
			const response = await fetch(address, { method: 'POST', body: form, signal: leaving.signal });
			if (!response.ok) {
				const [problem] = problemsIn(await response.json().catch(() => undefined));
				progress = { kind: 'failed', message: problem!.message };
				return;
			}
			for await (const line of linesOf(response.body!)) progress = JSON.parse(line) as ImportProgress;
			if (progress?.kind === 'progress') progress = await whatCame(id);
		} catch {
			progress = leaving.signal.aborted
				? { kind: 'failed', message: 'Stopped. Nothing of this file was kept.' }
				: await whatCame(id);
		}
		await invalidateAll();
	}
	/** What the server says of a file whose answer broke off. */
	async function whatCame(id: string): Promise<ImportProgress> {
		const found = await call<TakenFile>('GET', `${address}/${id}`);
		return found.ok ? { kind: 'done', notes: 0, ...found.value } : { kind: 'failed', message: LOST };
	}

	return {
		get progress() {
			return progress;
		},
		send,
		stop: () => leaving?.abort(),
		/** What was said of the file before is over. */
		clear: () => (progress = undefined)
	};
}

/** An answer line by line, as it comes. */
async function* linesOf(body: ReadableStream<Uint8Array<ArrayBuffer>>): AsyncGenerator<string> {
	const reader = body.pipeThrough(new TextDecoderStream()).getReader();
	let rest = '';
	for (;;) {
		const { done, value } = await reader.read();
		if (done) return;
		const lines = (rest + value).split('\n');
		rest = lines.pop()!;
		yield* lines;
	}
}
