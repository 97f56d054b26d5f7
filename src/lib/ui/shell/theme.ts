import type { ThemeConfig } from 'flowbite-svelte';

/** What is typed into or chosen from: a sheet of paper with a ruled edge. */
const SHEET = 'min-h-11 bg-sheet text-base text-ink dark:bg-sheet dark:text-ink dark:placeholder-faint';
/** Marks to set: large enough to hit beside their words. */
const MARK = 'size-5 bg-sheet text-plum';

/**
 * What all furniture has in common beyond the colours of app.css: a target is as high as a thumb needs, 44 px, and a field is as
 * wide as what it stands in.
 */
export const THEME: ThemeConfig = {
	alert: 'px-3 py-2 text-base text-ink dark:text-ink',
	button: { base: 'min-h-11 dark:text-ink' },
	checkbox: { base: MARK, div: 'min-h-11 text-ink dark:text-ink' },
	helper: 'min-h-5 text-sm',
	input: { input: `px-3 ${SHEET}` },
	label: 'font-normal text-faint dark:text-faint',
	radio: { input: MARK, label: 'min-h-11 text-ink dark:text-ink' },
	select: { select: `py-1 ps-3 pe-9 ${SHEET}` },
	table: { table: 'text-ink dark:text-ink' },
	tableBodyCell: 'px-2 py-2 font-normal whitespace-normal text-ink dark:text-ink',
	tableBodyRow: 'border-rule bg-transparent dark:border-rule dark:bg-transparent',
	tableHead: 'bg-transparent text-sm text-faint normal-case dark:bg-transparent dark:text-faint',
	tableHeadCell: 'px-2 py-2 font-medium'
};
