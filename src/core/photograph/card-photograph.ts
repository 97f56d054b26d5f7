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
	const [vial, paper, table, print] = [vialOf(card, scene.value), PAPER, TABLE, PRINT].map(colourOf) as [
		number,
		number,
		number
	][];
	const towards = random() * 2 * Math.PI;
	const [gx, gy] = [Math.cos(towards), Math.sin(towards)];
	const lamp: Spot = scene.glare === 'vial' ? { x: 0.7, y: 0.62 } : { x: 0.26, y: 0.3 + 0.4 * random() };
	const count = patches.length;

	const light = new Float32Array(3 * width * height);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const [u, v] = [x / width, y / height];
			const on = placeIn(back, { x, y });
			let colour = table!;
			let brightness = 1;
			if (on.x > 0 && on.x < 1 && on.y > 0 && on.y < 1) {
				colour = paper!;
				const place = ((on.y - STRIP.top) / (STRIP.bottom - STRIP.top)) * count;
				const i = Math.floor(place);
				if (i >= 0 && i < count && Math.abs(place - i - 0.5) < STRIP.share / 2) {
					if (on.x > STRIP.left && on.x < STRIP.right) colour = patches[i]!;
					else if (
						on.x > 0.08 &&
						on.x < 0.2 &&
						Math.abs(place - i - 0.5) < 0.14 &&
						Math.sin(on.x * 300 + i) > 0
					)
						colour = print!;
				}
			} else if (u > 0.52 && u < 0.97 && v > 0.08 && v < 0.95) {
				colour = paper!;
				// The vial: glass with darker rims, liquid below its surface.
				if (u > 0.62 && u < 0.78 && v > 0.3 && v < 0.88) {
					const across = Math.abs((u - 0.7) / 0.08);
					const rim = across > 0.86 ? 0.55 : 1;
					brightness = v > 0.42 ? rim : (v > 0.405 ? 0.7 : 0.93) * rim;
					if (v > 0.42) colour = vial!;
				}
			}
			const fall = brightness + brightness * scene.gradient * (gx * (u - 0.5) + gy * (v - 0.5));
			const mirrored = scene.glare
				? 0.75 * Math.exp(-(((u - lamp.x) / 0.09) ** 2 + ((v - lamp.y) / 0.09) ** 2))
				: 0;
			const at = 3 * (y * width + x);
			for (let c = 0; c < 3; c++) light[at + c] = colour[c]! * fall + mirrored * paper![c]!;
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
