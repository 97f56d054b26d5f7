import type { Pixels } from '../picture';
import { encoded, type Camera } from './card';

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
	for (let i = 0; i < width * height; i++) {
		for (let c = 0; c < 3; c++) {
			const v = soft[3 * i + c]!;
			// Shot noise, and what is there in the dark.
			data[4 * i + c] =
				encoded(v, camera.contrast) +
				camera.noise * Math.sqrt(0.2 + 0.8 * Math.min(1, Math.max(0, v))) * chance();
		}
		data[4 * i + 3] = 255;
	}
	return { width, height, data };
}

/** Box blur of so many pixels either way, in both directions; twice is nearly a bell. */
function blurred(light: Float32Array, width: number, height: number, radius: number): Float32Array {
	const r = Math.max(1, Math.round(radius));
	const pass = (from: Float32Array, along: 'x' | 'y') => {
		const to = new Float32Array(from.length);
		const [long, wide] = along === 'x' ? [width, height] : [height, width];
		const place = (i: number, j: number) => 3 * (along === 'x' ? j * width + i : i * width + j);
		for (let j = 0; j < wide; j++)
			for (let c = 0; c < 3; c++) {
				let sum = 0;
				const clamp = (i: number) => Math.max(0, Math.min(long - 1, i));
				for (let i = -r; i <= r; i++) sum += from[place(clamp(i), j) + c]!;
				for (let i = 0; i < long; i++) {
					to[place(i, j) + c] = sum / (2 * r + 1);
					sum += from[place(clamp(i + r + 1), j) + c]! - from[place(clamp(i - r), j) + c]!;
				}
			}
		return to;
	};
	return pass(pass(light, 'x'), 'y');
}
