import { MINUTE } from '../../core/base';
import type { Look, Looked } from '../sheets/look';
import type { SheetText } from '../sheets/workbook';

/** So long may a workbook take to open, ms: more is no book of readings. */
const OPENING = MINUTE;

/** What a worker answers to one message; it ends with its answer. Rejects where it fails. */
function answered<A>(worker: Worker, message: unknown, transfer: Transferable[] = []): Promise<A> {
	return new Promise<A>((resolve, reject) => {
		worker.onmessage = ({ data }: MessageEvent<A>) => resolve(data);
		worker.onerror = () => reject(new Error('the worker failed'));
		worker.postMessage(message, transfer);
	}).finally(() => worker.terminate());
}

/** All sheets of a workbook that hold anything, the fullest first; or the end of a sentence that begins with its name. */
export async function openWorkbook(
	bytes: Uint8Array
): Promise<{ sheets: SheetText[] } | { problem: string }> {
	const worker = new Worker(new URL('../workers/workbook.worker.ts', import.meta.url), { type: 'module' });
	let limit: ReturnType<typeof setTimeout> | undefined;
	const tooLong = new Promise<{ problem: string }>((resolve) => {
		limit = setTimeout(() => resolve({ problem: 'takes too long to open; save its sheet as .csv' }), OPENING);
	});
	const opened = answered<{ sheets: SheetText[] } | { problem: string }>(worker, bytes, [bytes.buffer]);
	try {
		const found = await Promise.race([opened, tooLong]);
		return 'sheets' in found && !found.sheets.length ? { problem: 'holds nothing' } : found;
	} catch {
		return { problem: 'could not be opened' };
	} finally {
		clearTimeout(limit);
		worker.terminate();
	}
}

/** How a sheet is understood; or why it cannot be, as a sentence. */
export async function lookAtSheet(look: Look): Promise<Looked | { problem: string }> {
	const worker = new Worker(new URL('../workers/sheet.worker.ts', import.meta.url), { type: 'module' });
	try {
		return await answered(worker, look);
	} catch {
		return { problem: 'This sheet could not be read.' };
	}
}
