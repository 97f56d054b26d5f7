/** Opens a workbook off the page's hands; its library comes only here. */
import { NoWorkbook, sheetsOf, type SheetText } from '$lib/sheets/workbook';

addEventListener('message', ({ data }: MessageEvent<Uint8Array>) => {
	try {
		postMessage({ sheets: sheetsOf(data) } satisfies { sheets: SheetText[] });
	} catch (failure) {
		postMessage({ problem: failure instanceof NoWorkbook ? failure.message : 'could not be read' });
	}
});
