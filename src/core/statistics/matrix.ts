/**
 * Square matrices are plain lists, row by row.
 *
 * @example zeros(3) // → [0, 0, 0]
 */
export const zeros = (count: number): number[] => new Array<number>(count).fill(0);

/*
 * Elements of vectors and matrices whose places are known to be there: no check, since filters spend their time here.
 */

/**
 * An element of a vector.
 *
 * @example el([1, 2], 1) // → 2
 */
export const el = (vector: readonly number[], i: number): number => vector[i] as number;

/**
 * Adds to an element of a vector, in place.
 *
 * @example ((v) => (addAt(v, 0, 2), v))([1, 1]) // → [3, 1]
 */
export function addAt(vector: number[], i: number, by: number): void {
	vector[i] = el(vector, i) + by;
}

/**
 * Multiplies an element of a vector, in place.
 *
 * @example ((v) => (scaleAt(v, 1, 2), v))([1, 1]) // → [1, 2]
 */
export function scaleAt(vector: number[], i: number, by: number): void {
	vector[i] = el(vector, i) * by;
}

/**
 * An element of a square matrix.
 *
 * @example cell([1, 2, 3, 4], 2, 1, 0) // → 3
 */
export const cell = (matrix: readonly number[], size: number, row: number, column: number): number =>
	matrix[row * size + column] as number;

/**
 * Adds to an element of a square matrix, in place.
 *
 * @example ((m) => (addToCell(m, 2, 1, 0, 5), m))([1, 2, 3, 4]) // → [1, 2, 8, 4]
 */
export const addToCell = (matrix: number[], size: number, row: number, column: number, by: number): void =>
	addAt(matrix, row * size + column, by);

/**
 * Multiplies an element of a square matrix, in place.
 *
 * @example ((m) => (scaleCell(m, 2, 0, 1, 5), m))([1, 2, 3, 4]) // → [1, 10, 3, 4]
 */
export const scaleCell = (matrix: number[], size: number, row: number, column: number, by: number): void =>
	scaleAt(matrix, row * size + column, by);

/**
 * cross · inverse(cov) by Gauss with pivots; a direction of no variance gets no gain.
 *
 * @example solveRight([4, 0, 0, 2], [4, 2, 0, 2], 2) // → [1, 1, 0, 1]
 */
export function solveRight(cov: number[], cross: number[], size: number): number[] {
	const scale = Array.from({ length: size }, (_, i) => Math.sqrt(Math.max(cell(cov, size, i, i), 1e-300)));
	const a = cov.map((x, k) => x / (el(scale, Math.floor(k / size)) * el(scale, k % size)));
	// Right-hand sides: the rows of cross, scaled alike.
	const b = cross.map((x, k) => x / el(scale, k % size));
	for (let i = 0; i < size; i++) addToCell(a, size, i, i, 1e-12);
	for (let p = 0; p < size; p++) {
		let pivot = p;
		for (let r = p + 1; r < size; r++)
			if (Math.abs(cell(a, size, r, p)) > Math.abs(cell(a, size, pivot, p))) pivot = r;
		if (pivot !== p) {
			for (let c = 0; c < size; c++)
				[a[p * size + c], a[pivot * size + c]] = [cell(a, size, pivot, c), cell(a, size, p, c)];
			for (let r = 0; r < size; r++)
				[b[r * size + p], b[r * size + pivot]] = [cell(b, size, r, pivot), cell(b, size, r, p)];
		}
		for (let r = p + 1; r < size; r++) {
			const f = cell(a, size, r, p) / cell(a, size, p, p);
			if (f === 0) continue;
			for (let c = p; c < size; c++) addToCell(a, size, r, c, -f * cell(a, size, p, c));
			for (let k = 0; k < size; k++) addToCell(b, size, k, r, -f * cell(b, size, k, p));
		}
	}
	for (let p = size - 1; p >= 0; p--)
		for (let k = 0; k < size; k++) {
			let x = cell(b, size, k, p);
			for (let c = p + 1; c < size; c++) x -= cell(a, size, p, c) * cell(b, size, k, c);
			b[k * size + p] = x / cell(a, size, p, p);
		}
	// Undo the scaling of the unknowns.
	return b.map((x, k) => x / el(scale, k % size));
}
