import type { Block } from 'tesseract.js';
import type { Box, InkWord, LeafletRequest } from '$core/picture';
import type { TypesetLeaflet } from '$lib/workers/eye.worker';

/** Where the build puts the library's worker, its core and its data. */
const FILES = '/_app/immutable/recognition';
/** What lies so far outside a word's place on the sheet is another's, pixels. */
const ABOUT = 24;

type Words = LeafletRequest['words'];
const isTorn = ({ text }: Words[number]) => /\d/.test(text) && /[^\d.,]/.test(text);

/** What was recognised at the place of each word. */
function wordsAt(blocks: Block[], words: InkWord[], places: Box[]): Words {
	const found = blocks.flatMap((b) => b.paragraphs.flatMap((p) => p.lines.flatMap((l) => l.words)));
	return words.map(({ box, decimals }, i) => {
		const [left, top, right, bottom] = places[i] as Box;
		const inside = found
			.filter(({ bbox }) => {
				const [x, y] = [(bbox.x0 + bbox.x1) / 2, (bbox.y0 + bbox.y1) / 2];
				return x > left - ABOUT && x < right + ABOUT && y > top - ABOUT / 2 && y < bottom + ABOUT / 2;
			})
			.sort((a, b) => a.bbox.x0 - b.bbox.x0);
		return {
			text: inside
				.map((w) => w.text)
				.join('')
				.slice(0, 60),
			confidence: Math.max(0, Math.min(100, ...inside.map((w) => w.confidence))),
			box,
			...(decimals && decimals <= 10 ? { decimals } : {})
		};
	});
}

/** Recognises a leaflet's words, set anew one by one, on this device; `onprogress` hears 0 to 1, the signal stops it. */
export async function recognised(
	{ sheet, words, places }: Pick<TypesetLeaflet, 'sheet' | 'words' | 'places'>,
	onprogress: (share: number) => void,
	signal: AbortSignal
): Promise<Words | undefined> {
	const stopped = new Promise<undefined>((stop) => signal.addEventListener('abort', () => stop(undefined)));
	const { createWorker, OEM, PSM } = await import('tesseract.js');
	const worker = await createWorker('eng', OEM.LSTM_ONLY, {
		workerPath: `${FILES}/worker.min.js`,
		corePath: `${FILES}/core.js`,
		langPath: FILES,
		workerBlobURL: false,
		cacheMethod: 'none',
		// It is told by the promise; without this it would be thrown where nobody catches it.
		errorHandler: () => undefined,
		logger: ({ status, progress }) =>
			onprogress(status === 'recognizing text' ? 0.3 + 0.7 * progress : 0.3 * progress)
	});
	try {
		if (signal.aborted) return undefined;
		await worker.setParameters({ tessedit_pageseg_mode: PSM.SINGLE_BLOCK, user_defined_dpi: '150' });
		const canvas = document.createElement('canvas');
		canvas.width = sheet.width;
		canvas.height = sheet.height;
		canvas.getContext('2d')!.drawImage(sheet, 0, 0);
		const look = async (whitelist: string) => {
			await worker.setParameters({ tessedit_char_whitelist: whitelist });
			const page = await Promise.race([worker.recognize(canvas, {}, { blocks: true }), stopped]);
			return page && wordsAt(page.data.blocks ?? [], words, places);
		};
		const first = await look('');
		// Headings stay letters; what is a number but for a letter or two is looked at again as nothing but digits.
		if (!first?.some(isTorn)) return first;
		const digits = await look('0123456789');
		return digits && first.map((word, i) => (isTorn(word) ? { ...digits[i]!, confidence: 0 } : word));
	} finally {
		await worker.terminate();
	}
}
