import { normal, uniform } from '../statistics';
import type { Pixels, ScaleEnds, Spot } from '../picture';
import { finished } from './develop';

export interface SyringeScene {
	fillMl: number;
	graduationMl: number;
	/** By the plunger's edge, mL. */
	left: number;
	/** Air between plunger and liquid, mL. */
	air: number;
	/** Digits the wrong way up. */
	upsideDown: boolean;
	/** Direction of the barrel from zero to full, radians. */
	turned: number;
	/** How much nearer the full end is than the tip, as a share: foreshortening. */
	slant: number;
	/** Brightness of the seal and of the ground, 0 to 1. */
	seal: number;
	ground: number;
	/** How dark the liquid is, 0 to 1. */
	tint: number;
	gradient: number;
	blur: number;
	noise: number;
	/** Length of the scale in the picture, pixels. */
	length: number;
	width: number;
	height: number;
	seed: number;
}

/** A syringe on a plain ground, as a phone takes it, with the ends of its scale. */
export function photographSyringe(scene: SyringeScene): { pixels: Pixels; ends: ScaleEnds } {
	const { width, height, length, fillMl, graduationMl, slant } = scene;
	const chance = normal(uniform(scene.seed));
	const [ax, ay] = [Math.cos(scene.turned), Math.sin(scene.turned)];
	const middle: Spot = { x: width / 2, y: height / 2 };
	/** Where a share of the scale is seen: nearer parts take more room. */
	const seen = (t: number) => (t * (1 + slant)) / (1 + slant * t);
	const shareAt = (s: number) => s / (1 + slant - slant * s);
	const place = (t: number): Spot => ({
		x: middle.x + (seen(t) - 0.5) * length * ax,
		y: middle.y + (seen(t) - 0.5) * length * ay
	});
	const bore = 0.075;
	const light = new Float32Array(3 * width * height);
	const count = Math.round(fillMl / graduationMl);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			let v = 0;
			// Four looks a pixel: edges are not jagged.
			for (const [ox, oy] of [
				[0.25, 0.25],
				[0.75, 0.25],
				[0.25, 0.75],
				[0.75, 0.75]
			] as const) {
				const [dx, dy] = [x + ox - middle.x, y + oy - middle.y];
				const t = shareAt((dx * ax + dy * ay) / length + 0.5);
				const across = (dy * ax - dx * ay) / length / (bore / 2);
				v += inBarrel(scene, t, across, count) / 4;
			}
			const fall = 1 + scene.gradient * ((x / width - 0.5) * 0.8 + (y / height - 0.5) * 0.6);
			for (let c = 0; c < 3; c++) light[3 * (y * width + x) + c] = v * fall * [1, 0.98, 0.93][c]!;
		}
	return {
		pixels: finished(light, width, height, { noise: scene.noise, contrast: 0 }, scene.blur, chance),
		ends: { zero: place(0), full: place(1) }
	};
}

/** Linear brightness at a share of the scale and so many half-bores off its middle. */
function inBarrel(scene: SyringeScene, t: number, across: number, count: number): number {
	const { fillMl, left, air, seal, ground, tint } = scene;
	if (Math.abs(across) > 1.12 || t < -0.16) return ground;
	if (Math.abs(across) > 1) return ground * 0.55;
	if (t < -0.02) return Math.abs(across) > 0.35 ? ground : ground * (1 - tint);
	const ml = t * fillMl;
	let v = ground * 0.97;
	if (ml < left - air) v = ground * (1 - tint) * (ml > left - air - 0.006 * fillMl ? 0.85 : 1);
	if (ml >= left) {
		const behind = (ml - left) / fillMl;
		// A seal with two ribs, then the rod.
		if (behind < 0.03 || (behind > 0.045 && behind < 0.075)) v = seal;
		else if (behind < 0.045) v = seal * 1.4;
		else v = Math.abs(across) < 0.5 ? ground * 0.75 : ground * 0.9;
	}
	return isInk(t * count, across, count, scene.upsideDown) ? Math.min(v, 0.06) : v;
}

/** Lines at one side, longer at fives and tens; digits beside the tens. `line`: how many lines from zero. */
function isInk(line: number, across: number, count: number, upsideDown: boolean | undefined): boolean {
	const nearest = Math.round(line);
	const long = nearest % 10 === 0 ? 0.95 : nearest % 5 === 0 ? 0.7 : 0.45;
	if (nearest < 0 || nearest > count) return false;
	if (Math.abs(line - nearest) < 0.1 && across > 1 - long) return true;
	if (nearest % 10 !== 0) return false;
	const [u, w] = [((line - nearest) * (upsideDown ? -1 : 1)) / 2.4, (across + 0.55) / 0.3];
	return (
		Math.abs(u) < 0.5 &&
		Math.abs(w) < 1 &&
		Math.abs(line - nearest) > 0.2 &&
		Math.sin(7 * u + 3 * nearest) * Math.cos(9 * w + u) > 0.35
	);
}
