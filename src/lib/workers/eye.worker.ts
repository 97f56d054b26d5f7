import { imageSize } from 'image-size';
import { colour, type ColourResult } from '$core/colour';
import { bad, good, type Outcome } from '$core/base';
import {
	barrelRows,
	colourRequest,
	findStrip,
	inkWords,
	leanOf,
	plunger,
	reread,
	straightened,
	typeset,
	type Box,
	type CardMarks,
	type Corners,
	type InkWord,
	type LeafletRequest,
	type Pixels,
	type PlungerResult,
	type ScaleEnds
} from '$core/picture';

/** A card as it is photographed: the values of its patches, and how they are laid out. */
interface PhotographedCard {
	values: number[];
	form: 'card' | 'wheel' | 'block';
}

export type EyeOrder =
	| { open: Blob; card?: PhotographedCard | undefined }
	| { frames: ImageBitmap[]; card?: PhotographedCard | undefined }
	| { shades: CardMarks; card: PhotographedCard }
	| { syringe: ScaleEnds; fillMl: number; graduationMl: number }
	| { live: ImageBitmap; marks: CardMarks; card: PhotographedCard }
	| { leaflet: Corners }
	| { glyphs: LeafletRequest['words'] }
	| { keep: true };

/** A picture that was opened: how large it is looked at, a copy to show, and where its card seems to be. */
export interface Opened {
	width: number;
	height: number;
	shown: ImageBitmap;
	strip?: Corners | undefined;
}
/** A leaflet's words, set anew for text recognition. */
export interface TypesetLeaflet {
	straight: ImageBitmap;
	words: InkWord[];
	places: Box[];
	sheet: ImageBitmap;
}
export interface EyeAnswers {
	open: Opened;
	frames: Opened;
	shades: ColourResult;
	syringe: PlungerResult;
	live: { result: ColourResult; strip?: Corners | undefined };
	leaflet: TypesetLeaflet;
	/** The leaflet's words once more, by the digits of its own face. */
	glyphs: LeafletRequest['words'];
	keep: string;
}
export interface EyeReport {
	turn: number;
	outcome: Outcome<unknown>;
}

/** A picture is looked at with so many pixels along its longer side; live, with fewer. */
const LOOKED_AT = 1600;
const LIVE = 640;
/** More pixels than any phone's camera gives are not unpacked at all, millions. */
const MOST_MEGAPIXELS = 64;
const LEAST_SIDE = 64;
const MOST_BYTES = 60 * 2 ** 20;
/** What is kept beside a reading. */
const KEPT_SIDE = 1280;
const KEPT_QUALITY = 0.82;

let pixels: Pixels | undefined;
/** The leaflet that was set last. */
let set: { straight: Pixels; words: InkWord[] } | undefined;

const NOT_A_PICTURE = 'This is no picture that can be read. Take a JPEG, PNG or WebP.';

/** How large a picture says it is, before anything is unpacked. */
async function sizeOf(file: Blob): Promise<Outcome<{ width: number; height: number }>> {
	if (file.size > MOST_BYTES)
		return bad(
			'',
			`This file has ${Math.round(file.size / 2 ** 20)} MB; pictures up to ${MOST_BYTES / 2 ** 20} MB are read.`
		);
	try {
		const { width, height } = imageSize(new Uint8Array(await file.arrayBuffer()));
		if (width * height > MOST_MEGAPIXELS * 1e6)
			return bad(
				'',
				`This picture has ${Math.round((width * height) / 1e6)} million pixels; up to ${MOST_MEGAPIXELS} million are read. Take a smaller one.`
			);
		if (Math.min(width, height) < LEAST_SIDE)
			return bad('', `This picture is only ${width} by ${height} pixels: nothing can be seen in it.`);
		return good({ width, height });
	} catch {
		return bad('', NOT_A_PICTURE);
	}
}

/** A canvas whose pixels are taken over; what is left of it goes to the page to be shown. */
function opened(canvas: OffscreenCanvas, card: PhotographedCard | undefined): Opened {
	const { width, height } = canvas;
	pixels = canvas.getContext('2d')!.getImageData(0, 0, width, height);
	const strip = card && card.form !== 'wheel' ? findStrip(pixels, card.values.length) : undefined;
	return { width, height, shown: canvas.transferToImageBitmap(), strip };
}
const canvasOf = (width: number, height: number) => {
	const canvas = new OffscreenCanvas(width, height);
	return { canvas, pen: canvas.getContext('2d', { willReadFrequently: true })! };
};

async function open(file: Blob, card: PhotographedCard | undefined): Promise<Outcome<Opened>> {
	const size = await sizeOf(file);
	if (!size.ok) return size;
	const { width, height } = size.value;
	const scale = Math.min(1, LOOKED_AT / Math.max(width, height));
	try {
		const picture = await createImageBitmap(file, { imageOrientation: 'from-image' });
		// Drawn smaller in one go: the picture is unpacked once, and turned upright by its own word.
		const { canvas, pen } = canvasOf(Math.round(picture.width * scale), Math.round(picture.height * scale));
		pen.imageSmoothingQuality = 'low';
		pen.drawImage(picture, 0, 0, canvas.width, canvas.height);
		picture.close();
		return good(opened(canvas, card));
	} catch {
		return bad('', NOT_A_PICTURE);
	}
}

/** Several frames of one moment as one: noise goes down by the root of their number. */
function averaged(frames: ImageBitmap[], card: PhotographedCard | undefined): Opened {
	const [first] = frames;
	const { width, height } = first!;
	const sums = new Float32Array(4 * width * height);
	const { canvas, pen } = canvasOf(width, height);
	for (const frame of frames) {
		pen.drawImage(frame, 0, 0);
		const { data } = pen.getImageData(0, 0, width, height);
		for (let i = 0; i < data.length; i++) sums[i]! += data[i]! / frames.length;
		frame.close();
	}
	const mean = new ImageData(width, height);
	mean.data.set(sums);
	pen.putImageData(mean, 0, 0);
	return opened(canvas, card);
}

const shadesIn = (
	of: Pixels,
	marks: CardMarks,
	{ values, form }: PhotographedCard
): Outcome<ColourResult> => {
	const request = colourRequest(of, marks, values, form);
	if (!request || request.patches.some((p) => !p.samples.length))
		return bad('', 'Part of what is marked lies outside the picture.');
	return colour(request);
};

function live(frame: ImageBitmap, marks: CardMarks, card: PhotographedCard): Outcome<EyeAnswers['live']> {
	const scale = Math.min(1, LIVE / Math.max(frame.width, frame.height));
	const [width, height] = [Math.round(frame.width * scale), Math.round(frame.height * scale)];
	const { pen } = canvasOf(width, height);
	pen.drawImage(frame, 0, 0, width, height);
	frame.close();
	const of = pen.getImageData(0, 0, width, height);
	const scaled = (corners: Corners, by: number) =>
		corners.map(({ x, y }) => ({ x: x * by, y: y * by })) as Corners;
	const strip = card.form === 'wheel' ? undefined : findStrip(of, card.values.length);
	const there = (corners: Corners | undefined) => corners && scaled(corners, scale);
	const result = shadesIn(
		of,
		{
			...marks,
			corners: strip ?? there(marks.corners)!,
			vial: there(marks.vial)!,
			white: there(marks.white),
			zero: there(marks.zero)
		},
		card
	);
	return result.ok ? good({ result: result.value, strip: strip && scaled(strip, 1 / scale) }) : result;
}

/** So many pixels across a leaflet that is straightened. */
const LEAFLET_WIDTH = 1500;
/** Columns that lean by less, to the right for each pixel down, are upright. */
const UPRIGHT = 0.008;
/** Corners turned about their middle, so that columns which lean stand upright. */
function turned(corners: Corners, lean: number): Corners {
	const middle = { x: corners.reduce((s, c) => s + c.x, 0) / 4, y: corners.reduce((s, c) => s + c.y, 0) / 4 };
	const [cos, sin] = [Math.cos(Math.atan(lean)), Math.sin(Math.atan(lean))];
	return corners.map(({ x, y }) => ({
		x: middle.x + cos * (x - middle.x) + sin * (y - middle.y),
		y: middle.y - sin * (x - middle.x) + cos * (y - middle.y)
	})) as Corners;
}
/** More words no chart has. */
const MOST_WORDS = 600;

function leafletIn(of: Pixels, corners: Corners): Outcome<TypesetLeaflet> {
	const long = (a: number, b: number) =>
		Math.hypot(corners[a as 0].x - corners[b as 0].x, corners[a as 0].y - corners[b as 0].y);
	const width = Math.min(LEAFLET_WIDTH, Math.max(300, Math.round(Math.max(long(0, 1), long(3, 2)))));
	const height = Math.min(
		3000,
		Math.round((width * Math.max(long(1, 2), long(0, 3))) / Math.max(long(0, 1), long(3, 2), 1))
	);
	const framed = height > 20 ? straightened(of, corners, width, height) : undefined;
	if (!framed) return bad('', 'The four corners must frame the chart.');
	const first = inkWords(framed);
	const lean = leanOf(first.slice(0, MOST_WORDS).map((w) => w.box));
	// A sheet that lies turned in its frame is turned upright before its digits are looked at.
	const straight =
		Math.abs(lean) < UPRIGHT ? framed : (straightened(of, turned(corners, lean), width, height) ?? framed);
	const words = straight === framed ? first : inkWords(straight);
	if (words.length < 4)
		return bad(
			'',
			'No print was found between the corners. Take the chart closer and sharp, without a shadow.'
		);
	set = { straight, words: words.slice(0, MOST_WORDS) };
	const { sheet, places } = typeset(straight, set.words);
	return good({ straight: asBitmap(straight), words: set.words, places, sheet: asBitmap(sheet) });
}
function asBitmap({ width, height, data }: Pixels): ImageBitmap {
	const drawn = new OffscreenCanvas(width, height);
	drawn
		.getContext('2d')!
		.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height), 0, 0);
	return drawn.transferToImageBitmap();
}

/** The picture as it stays with its reading: scaled, JPEG from pixels alone, base64. */
async function kept({ width, height, data }: Pixels): Promise<string> {
	const scale = Math.min(1, KEPT_SIDE / Math.max(width, height));
	const { canvas, pen } = canvasOf(width, height);
	pen.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height), 0, 0);
	const { canvas: small, pen: smaller } = canvasOf(Math.round(width * scale), Math.round(height * scale));
	smaller.imageSmoothingQuality = 'high';
	smaller.drawImage(canvas, 0, 0, small.width, small.height);
	const bytes = new Uint8Array(
		await (await small.convertToBlob({ type: 'image/jpeg', quality: KEPT_QUALITY })).arrayBuffer()
	);
	let text = '';
	for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
	return btoa(text);
}

async function done(order: EyeOrder): Promise<Outcome<unknown>> {
	if ('open' in order) return open(order.open, order.card);
	if ('frames' in order) return good(averaged(order.frames, order.card));
	if ('live' in order) return live(order.live, order.marks, order.card);
	if (!pixels) return bad('', 'There is no picture yet.');
	if ('shades' in order) return shadesIn(pixels, order.shades, order.card);
	if ('syringe' in order) return plunger(barrelRows(pixels, order.syringe, order));
	if ('glyphs' in order)
		return set ? good(reread(set.straight, set.words, order.glyphs)) : bad('', 'There is no leaflet yet.');
	if ('leaflet' in order) return leafletIn(pixels, order.leaflet);
	return good(await kept(pixels));
}

onmessage = async ({ data }: MessageEvent<{ turn: number; order: EyeOrder }>) => {
	const outcome = await done(data.order).catch(() => bad('', NOT_A_PICTURE));
	postMessage({ turn: data.turn, outcome } satisfies EyeReport);
};
