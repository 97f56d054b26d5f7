import type { Pixels } from '../picture';
import { encoded, type Camera } from './card';

const STEPS = 8192;
const CHANCES = 16384;

/** Light on a sensor becomes a picture: blurred, noisy, through the camera's curve, in 256 steps. */
export function finished(
	light: Float32Array,
	width: number,
	height: number,
	camera: Pick<Camera, 'noise' | 'contrast'>,
	blur: number,
	chance: () => number
): Pixels {
	const soft = blur > 0 ? blurred(blurred(light, width, height, blur), width, height, blur) : light;
	const data = new Uint8ClampedArray(4 * width * height);
	// The curve, and noise by chance, each from a table: a picture has a million of both.
	const curve = Float32Array.from({ length: STEPS + 1 }, (_, i) => encoded(i / STEPS, camera.contrast));
	const chances = Float32Array.from({ length: CHANCES }, chance);
	let turn = 1;
	for (let i = 0; i < width * height; i++) {
		for (let c = 0; c < 3; c++) {
			const v = Math.max(0, Math.min(1, soft[3 * i + c]!));
			turn = (Math.imul(turn, 1664525) + 1013904223) >>> 0;
			// Shot noise, and what is there in the dark.
			data[4 * i + c] =
				curve[Math.round(v * STEPS)]! + camera.noise * Math.sqrt(0.2 + 0.8 * v) * chances[turn >>> 18]!;
		}
		data[4 * i + 3] = 255;
	}
	return { width, height, data };
}

/** Box blur of so many pixels either way, in both directions; twice is nearly a bell. */
function blurred(light: Float32Array, width: number, height: number, radius: number): Float32Array {
	const r = Math.max(1, Math.round(radius));
	const pass = (from: Float32Array, long: number, wide: number, step: number, stride: number) => {
		const to = new Float32Array(from.length);
		for (let j = 0; j < wide; j++)
			for (let c = 0; c < 3; c++) {
				const start = j * stride + c;
				const last = start + (long - 1) * step;
				let sum = r * from[start]!;
				for (let i = 0; i <= r; i++) sum += from[Math.min(last, start + i * step)]!;
				for (let i = 0; i < long; i++) {
					const at = start + i * step;
					to[at] = sum / (2 * r + 1);
					sum += from[Math.min(last, at + (r + 1) * step)]! - from[Math.max(start, at - r * step)]!;
				}
			}
		return to;
	};
	return pass(pass(light, width, height, 3, 3 * width), height, width, 3 * width, 3);
}
