/** Reads a sheet off the page's hands: a file of ten years takes a second or two. */
import { looked, type Look, type Looked } from '$lib/sheets/look';

addEventListener('message', ({ data }: MessageEvent<Look>) => {
	const answer: Looked = looked(data);
	postMessage(answer);
});
