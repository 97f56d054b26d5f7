import { normal, uniform } from '../statistics';
import { inverse, perspectiveOf, placeIn, type Corners, type Pixels, type Spot } from '../picture';
import { developed, patchOf, vialOf, type Camera, type PrintedCard } from './card';
import { finished } from './develop';
import { PAPER, WAVELENGTHS, type Light, type Spectrum } from './spectra';

export interface CardScene {
	card: PrintedCard;
	/** What the vial holds. */
	value: number;
	light: Light;
	camera: Camera;
	/** How much brighter the light is at one side than at the other, as a share. */
	gradient: number;
	/** How far corners are off where they would be seen straight on, as a share of the card. */
	slant: number;
	/** Radius of blur, pixels. */
	blur: number;
	/** A lamp mirrored in the card or the vial. */
	glare?: 'card' | 'vial';
	width: number;
	height: number;
	seed: number;
}

/** The same picture's truth: where things are. */
interface CardPhotograph {
	pixels: Pixels;
	/** Of the strip of patches, palest first. */
	corners: Corners;
	/** Places within the vial's liquid and on white ground beside it: left, top, right, bottom. */
	vial: [number, number, number, number];
	white: [number, number, number, number];
}

/** Left and right rim of the patches, and what of a step a patch takes, on a card one wide and one high. */
const STRIP = { left: 0.3, right: 0.72, share: 0.82, top: 0.05, bottom: 0.95 };
const TABLE: Spectrum = WAVELENGTHS.map((nm) => 0.18 + 0.12 * ((nm - 400) / 300));
const PRINT: Spectrum = WAVELENGTHS.map(() => 0.05);

/** What is seen at a place, patches by their number, and how bright it is there. */
interface Seen {
	thing: 'paper' | 'table' | 'print' | 'vial' | number;
	brightness: number;
}

/** At a place of the card, which is one wide and one high: patches with a line of print beside each; undefined beside the card. */
function onCard({ x, y }: Spot, count: number): Seen | undefined {
	if (x <= 0 || x >= 1 || y <= 0 || y >= 1) return undefined;
	const place = ((y - STRIP.top) / (STRIP.bottom - STRIP.top)) * count;
	const i = Math.floor(place);
	const off = Math.abs(place - i - 0.5);
	const paper: Seen = { thing: 'paper', brightness: 1 };
	if (i < 0 || i >= count || off >= STRIP.share / 2) return paper;
	if (x > STRIP.left && x < STRIP.right) return { thing: i, brightness: 1 };
	const isPrint = x > 0.08 && x < 0.2 && off < 0.14 && Math.sin(x * 300 + i) > 0;
	return isPrint ? { thing: 'print', brightness: 1 } : paper;
}

/** At a place of the picture, as shares of it, beside the card: paper on the table, before it the vial, glass with darker rims, liquid below its surface. */
function besideCard(u: number, v: number): Seen {
	if (u <= 0.52 || u >= 0.97 || v <= 0.08 || v >= 0.95) return { thing: 'table', brightness: 1 };
	if (u <= 0.62 || u >= 0.78 || v <= 0.3 || v >= 0.88) return { thing: 'paper', brightness: 1 };
	const rim = Math.abs((u - 0.7) / 0.08) > 0.86 ? 0.55 : 1;
	return v > 0.42
		? { thing: 'vial', brightness: rim }
		: { thing: 'paper', brightness: (v > 0.405 ? 0.7 : 0.93) * rim };
}

/** A card and a vial before white paper on a table, as a phone takes them. */
export function photographCard(scene: CardScene): CardPhotograph {
	const { card, camera, width, height } = scene;
	const random = uniform(scene.seed);
	const chance = normal(random);
	const off = () => scene.slant * chance() * 0.5;
	const frame = (x: number, y: number): Spot => ({
		x: width * (x + off() * 0.3),
		y: height * (y + off() * 0.3)
	});
	const sheet: Corners = [frame(0.06, 0.06), frame(0.46, 0.06), frame(0.46, 0.94), frame(0.06, 0.94)];
	const view = perspectiveOf(sheet)!;
	const back = inverse(view);
	const colourOf = developed(scene.light, camera);
	const patches = card.values.map((v) => colourOf(patchOf(card, v)));
	const colours = {
		vial: colourOf(vialOf(card, scene.value)),
		paper: colourOf(PAPER),
		table: colourOf(TABLE),
		print: colourOf(PRINT)
	};
	const towards = random() * 2 * Math.PI;
	const [gx, gy] = [Math.cos(towards), Math.sin(towards)];
	const lamp: Spot = scene.glare === 'vial' ? { x: 0.7, y: 0.62 } : { x: 0.26, y: 0.3 + 0.4 * random() };
	const count = patches.length;

	const light = new Float32Array(3 * width * height);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const [u, v] = [x / width, y / height];
			const on = placeIn(back, { x, y });
			const { thing, brightness } = onCard(on, count) ?? besideCard(u, v);
			const colour = typeof thing === 'number' ? patches[thing]! : colours[thing];
			const fall = brightness + brightness * scene.gradient * (gx * (u - 0.5) + gy * (v - 0.5));
			const mirrored = scene.glare
				? 0.75 * Math.exp(-(((u - lamp.x) / 0.09) ** 2 + ((v - lamp.y) / 0.09) ** 2))
				: 0;
			const at = 3 * (y * width + x);
			for (let c = 0; c < 3; c++) light[at + c] = colour[c]! * fall + mirrored * colours.paper[c]!;
		}
	const strip = (x: number, y: number): Spot => placeIn(view, { x, y });
	const edge = ((1 - STRIP.share) / 2 / count) * (STRIP.bottom - STRIP.top);
	const [top, bottom] = [STRIP.top + edge, STRIP.bottom - edge];
	return {
		pixels: finished(light, width, height, camera, scene.blur, chance),
		corners: [
			strip(STRIP.left, top),
			strip(STRIP.right, top),
			strip(STRIP.right, bottom),
			strip(STRIP.left, bottom)
		],
		vial: [0.645 * width, 0.48 * height, 0.755 * width, 0.82 * height],
		white: [0.82 * width, 0.48 * height, 0.94 * width, 0.82 * height]
	};
}
