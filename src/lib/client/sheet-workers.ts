/** Workers that open workbooks and look at sheets: both can take long, and are ended with the worker. */
export const workbookWorker = (): Worker =>
	new Worker(new URL('../workers/workbook.worker.ts', import.meta.url), { type: 'module' });
export const sheetWorker = (): Worker =>
	new Worker(new URL('../workers/sheet.worker.ts', import.meta.url), { type: 'module' });
