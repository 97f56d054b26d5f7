import { v7 as uuid } from 'uuid';
import { MINUTE } from '$core/base';
import type { SheetLayout } from '$core/formats';
import { sheetWorker, workbookWorker } from '$lib/client/sheet-workers';
import type { Look, Looked } from '$lib/sheets/look';
import { textOf, type Separator } from '$lib/sheets/parse';
import type { SheetText } from '$lib/sheets/workbook';

/** The largest sheet that is taken: fifty years of everything, daily, bytes. */
const LARGEST = 50_000_000;
/** So long may a workbook take to open, ms: more is no book of readings. */
const OPENING = MINUTE;

/** A sheet as it goes to the server, with its text as it is looked at here. */
export interface SheetFile {
	name: string;
	bytes: File;
	text: string;
	/** Of what comes of it: the same file sent twice adds nothing. */
	id: string;
}

/** What a layout says, without what was guessed beside. */
export const plainLayout = ({
	headerRow,
	decimal,
	order,
	hour,
	columns,
	units,
	leaveOdd
}: SheetLayout): SheetLayout => ({
	headerRow,
	decimal,
	order,
	hour,
	columns,
	units,
	...(leaveOdd ? { leaveOdd } : {})
});

/** Opens a file and looks at it, in workers: what is in it, and how it is understood, also after something was put right. */
export function openSheetReader({ timeZone, now }: { timeZone: string; now: number }) {
	let file: SheetFile | undefined = $state.raw();
	let sheets: SheetText[] = $state.raw([]);
	let opening = $state(false);
	let sheet: Looked | undefined = $state.raw();
	let looking = $state(false);
	let problem = $state('');
	let turn = 0;
	/** What waits for the sheet that is being looked at. */
	let then: (() => void) | undefined;

	async function take(chosen: File) {
		sheet = undefined;
		problem = '';
		if (chosen.size > LARGEST) {
			problem = 'This file is larger than 50 MB. Part it by years.';
			return;
		}
		sheets = [];
		const bytes = new Uint8Array(await chosen.arrayBuffer());
		// Workbooks are zip archives and begin with their mark.
		if (bytes[0] === 0x50 && bytes[1] === 0x4b) return open(chosen.name, bytes);
		const text = textOf(bytes);
		if (text.includes('\0') || !text.trim()) {
			problem = text.trim()
				? 'This is neither text nor a workbook. Save the sheet as .xlsx, .ods or .csv first.'
				: 'This file is empty.';
			return;
		}
		file = { name: chosen.name, bytes: chosen, text, id: uuid() };
		look();
	}
	function open(name: string, bytes: Uint8Array) {
		opening = true;
		const worker = workbookWorker();
		const end = (why = '') => {
			clearTimeout(limit);
			worker.terminate();
			opening = false;
			if (why) problem = `${name} ${why}.`;
		};
		const limit = setTimeout(() => end('takes too long to open; save its sheet as .csv'), OPENING);
		worker.onmessage = ({ data }: MessageEvent<{ sheets: SheetText[] } | { problem: string }>) => {
			if ('problem' in data) return end(data.problem);
			sheets = data.sheets;
			end(sheets.length ? '' : 'holds nothing');
			if (sheets[0]) choose(name, sheets[0]);
		};
		worker.onerror = () => end('could not be opened');
		worker.postMessage(bytes, [bytes.buffer]);
	}
	/** One sheet of a workbook goes on as text. */
	function choose(name: string, { text }: SheetText) {
		sheet = undefined;
		file = { name, bytes: new File([text], name, { type: 'text/csv' }), text, id: uuid() };
		look();
	}
	function look(separator?: Separator, layout?: SheetLayout) {
		if (!file) return;
		const mine = ++turn;
		looking = true;
		problem = '';
		const worker = sheetWorker();
		const end = () => {
			worker.terminate();
			if (mine !== turn) return;
			looking = false;
			const next = then;
			then = undefined;
			if (!problem) next?.();
		};
		worker.onmessage = ({ data: found }: MessageEvent<Looked | { tooLarge: string }>) => {
			if (mine === turn) {
				if ('tooLarge' in found) problem = found.tooLarge;
				else sheet = found;
			}
			end();
		};
		worker.onerror = () => {
			problem = 'This sheet could not be read.';
			end();
		};
		worker.postMessage({
			text: file.text,
			timeZone,
			now,
			...(separator && layout ? { separator, layout } : {})
		} satisfies Look);
	}
	return {
		get file() {
			return file;
		},
		/** Of a workbook, all that holds anything; the fullest is looked at first. */
		get sheets() {
			return sheets;
		},
		get sheet() {
			return sheet;
		},
		get problem() {
			return problem;
		},
		/** Whether a file is being opened or looked at. */
		get isReading() {
			return opening || looking;
		},
		take,
		choose,
		look,
		/** The layout with something put right. */
		change(part: Partial<SheetLayout>) {
			if (sheet) look(sheet.separator, { ...plainLayout(sheet.layout), ...part });
		},
		/** Does something with the sheet, as soon as it has been looked at. */
		whenLooked(next: () => void) {
			if (looking) then = next;
			else next();
		},
		putAway() {
			sheet = undefined;
			file = undefined;
		}
	};
}
