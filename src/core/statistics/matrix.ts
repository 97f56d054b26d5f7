/**
 * Square matrices are plain lists, row by row.
 *
 * @example zeros(3) // → [0, 0, 0]
 */
export const zeros = (count: number): number[] => new Array<number>(count).fill(0);

/**
 * cross · inverse(cov) by Gauss with pivots; a direction of no variance gets no gain.
 *
 * @example solveRight([4, 0, 0, 2], [4, 2, 0, 2], 2) // → [1, 1, 0, 1]
 */
export function solveRight(cov: number[], cross: number[], size: number): number[] {
	const scale = Array.from({ length: size }, (_, i) => Math.sqrt(Math.max(cov[i * size + i]!, 1e-300)));
	const a = cov.map((x, k) => x / (scale[Math.floor(k / size)]! * scale[k % size]!));
	// Right-hand sides: the rows of cross, scaled alike.
	const b = cross.map((x, k) => x / scale[k % size]!);
	for (let i = 0; i < size; i++) a[i * size + i]! += 1e-12;
	for (let p = 0; p < size; p++) {
		let pivot = p;
		for (let r = p + 1; r < size; r++)
			if (Math.abs(a[r * size + p]!) > Math.abs(a[pivot * size + p]!)) pivot = r;
		if (pivot !== p) {
			for (let c = 0; c < size; c++)
				[a[p * size + c], a[pivot * size + c]] = [a[pivot * size + c]!, a[p * size + c]!];
			for (let r = 0; r < size; r++)
				[b[r * size + p], b[r * size + pivot]] = [b[r * size + pivot]!, b[r * size + p]!];
		}
		for (let r = p + 1; r < size; r++) {
			const f = a[r * size + p]! / a[p * size + p]!;
			if (f === 0) continue;
			for (let c = p; c < size; c++) a[r * size + c]! -= f * a[p * size + c]!;
			for (let k = 0; k < size; k++) b[k * size + r]! -= f * b[k * size + p]!;
		}
	}
	for (let p = size - 1; p >= 0; p--)
		for (let k = 0; k < size; k++) {
			let x = b[k * size + p]!;
			for (let c = p + 1; c < size; c++) x -= a[p * size + c]! * b[k * size + c]!;
			b[k * size + p] = x / a[p * size + p]!;
		}
	// Undo the scaling of the unknowns.
	return b.map((x, k) => x / scale[k % size]!);
}
