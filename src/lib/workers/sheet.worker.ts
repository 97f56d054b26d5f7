/** Reads a sheet off the page's hands: a file of ten years takes a second or two. */
import { looked, type Look } from '$lib/sheets/look';

addEventListener('message', ({ data }: MessageEvent<Look>) => {
	postMessage(looked(data));
});
