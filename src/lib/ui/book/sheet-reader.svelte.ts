import { v7 as uuid } from 'uuid';
import type { SheetLayout } from '$core/formats';
import { lookAtSheet, openWorkbook } from '$lib/client/sheet-workers';
import type { Looked } from '$lib/sheets/look';
import { textOf, type Separator } from '$lib/sheets/parse';
import type { SheetText } from '$lib/sheets/workbook';

/** The largest sheet that is taken: fifty years of everything, daily, bytes. */
const LARGEST = 50_000_000;

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

/** Why a file is no sheet in text; empty where it is one. */
function noText(text: string): string {
	if (!text.trim()) return 'This file is empty.';
	return text.includes('\0')
		? 'This is neither text nor a workbook. Save the sheet as .xlsx, .ods or .csv first.'
		: '';
}

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
		// What was begun with another file is of no use any more.
		turn++;
		opening = looking = false;
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
		problem = noText(text);
		if (problem) return;
		file = { name: chosen.name, bytes: chosen, text, id: uuid() };
		void look();
	}
	async function open(name: string, bytes: Uint8Array) {
		const mine = ++turn;
		opening = true;
		const found = await openWorkbook(bytes);
		if (mine !== turn) return;
		opening = false;
		if ('problem' in found) {
			problem = `${name} ${found.problem}.`;
			return;
		}
		({ sheets } = found);
		if (sheets[0]) choose(name, sheets[0]);
	}
	/** One sheet of a workbook goes on as text. */
	function choose(name: string, { text }: SheetText) {
		sheet = undefined;
		file = { name, bytes: new File([text], name, { type: 'text/csv' }), text, id: uuid() };
		void look();
	}
	async function look(separator?: Separator, layout?: SheetLayout) {
		if (!file) return;
		const mine = ++turn;
		looking = true;
		problem = '';
		const { text } = file;
		const found = await lookAtSheet({
			text,
			timeZone,
			now,
			...(separator && layout ? { separator, layout } : {})
		});
		if (mine !== turn) return;
		looking = false;
		if ('problem' in found) problem = found.problem;
		else sheet = found;
		const next = then;
		then = undefined;
		if (!problem) next?.();
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
			if (sheet) void look(sheet.separator, { ...plainLayout(sheet.layout), ...part });
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
