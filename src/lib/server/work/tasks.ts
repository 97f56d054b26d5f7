import type { MessagePort } from 'node:worker_threads';
import { Book } from '../../../core/formats';
import type { Outcome } from '../../../core/base';
import { bench, type BenchRequest, type BenchResult } from '../../../core/schedule';
import { asOneWater, trend, type TankResult, type TrendRequest, type TrendResult } from '../../../core/trend';
import { textOf } from '../../sheets/parse';
import type { TakeIn } from '../../api/imports';
import type { Asker } from '../identity/asker';
import { takeBook } from '../archive/book-import';
import { calculate, parseJson, readyFor } from '../calculate';
import { takeIn } from '../archive/sheet-import';
import { parse } from '../validation';

/** What takes long enough to hold up everybody else: each runs in a thread of its own. Bytes are handed over, not copied. */
export const TASKS = {
	/** A calculation by name: JSON text in, its outcome as JSON text out. */
	async calculate({ name, text }: { name: string; text: string }): Promise<{ ok: boolean; json: string }> {
		await readyFor(name);
		const request = parseJson(text);
		const outcome = request.ok ? calculate(name, request.value) : request;
		return { ok: outcome.ok, json: JSON.stringify(outcome.ok ? outcome.value : outcome.problems) };
	},
	/** What a parameter is doing; nothing where its readings say nothing. */
	tank(requests: TrendRequest[]): TankResult | undefined {
		const outcome = asOneWater(requests);
		return outcome.ok ? outcome.value : undefined;
	},
	trend(request: TrendRequest): TrendResult | undefined {
		const outcome = trend(request);
		return outcome.ok ? outcome.value : undefined;
	},
	runPlan(request: BenchRequest): BenchResult | undefined {
		const outcome = bench(request);
		return outcome.ok ? outcome.value : undefined;
	},
	/** A workbook from rows of cells; its library is loaded here only. */
	async workbook({
		name,
		rows
	}: {
		name: string;
		rows: (string | number | Date | null)[][];
	}): Promise<Uint8Array> {
		const { workbookOf } = await import('../../sheets/workbook');
		return workbookOf(name, rows);
	},
	async takeBook({
		asker,
		id,
		bytes
	}: {
		asker: Asker;
		id: string;
		bytes: Uint8Array;
	}): Promise<Outcome<{ id: string }>> {
		const data = parseJson(new TextDecoder().decode(bytes));
		const book = data.ok ? parse(Book, data.value) : data;
		return book.ok ? takeBook(asker, id, book.value) : book;
	},
	/** Tells over the port how far it is, and at the end how often it has; whoever closes the other end stops it, and nothing of the file is kept. */
	async takeIn(given: {
		asker: Asker;
		systemId: string;
		bytes: Uint8Array;
		choice: TakeIn;
		port: MessagePort;
	}): Promise<number> {
		const { asker, systemId, bytes, choice, port } = given;
		let left = false;
		let sent = 0;
		port.once('close', () => (left = true));
		try {
			for await (const step of takeIn(asker, systemId, textOf(bytes), choice)) {
				if (left) return sent;
				port.postMessage(step);
				sent++;
			}
			return sent;
		} finally {
			port.close();
		}
	}
};
export type Task = keyof typeof TASKS;
export type Given<T extends Task> = Parameters<(typeof TASKS)[T]>[0];
export type Done<T extends Task> = Awaited<ReturnType<(typeof TASKS)[T]>>;
