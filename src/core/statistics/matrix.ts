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

/** In a matrix of correlations a pivot smaller than this is none, but rounding: its direction has no variance of its own. */
const NO_PIVOT = 1e-11;
/** One this far below zero is no rounding any more. */
const BELOW_ROUNDING = -1e-6;

/**
 * L of the Cholesky factorisation L·Lᵀ of a matrix of correlations (Golub & Van Loan 2013, 4.2); a direction of no variance has an empty
 * column. Throws where the matrix is not positive definite by more than rounding: whoever made it made a mistake.
 *
 * @example cholesky([1, 0.6, 0.6, 1], 2) // → [1, 0, 0.6, 0.8]
 */
export function cholesky(matrix: number[], size: number): number[] {
	const lower = zeros(size * size);
	for (let j = 0; j < size; j++) {
		let pivot = cell(matrix, size, j, j);
		for (let k = 0; k < j; k++) pivot -= cell(lower, size, j, k) ** 2;
		if (!(pivot > BELOW_ROUNDING)) throw new Error(`not positive definite: a pivot of ${pivot}`);
		if (pivot < NO_PIVOT) continue;
		const root = Math.sqrt(pivot);
		lower[j * size + j] = root;
		for (let i = j + 1; i < size; i++) {
			let sum = cell(matrix, size, i, j);
			for (let k = 0; k < j; k++) sum -= cell(lower, size, i, k) * cell(lower, size, j, k);
			lower[i * size + j] = sum / root;
		}
	}
	return lower;
}

/**
 * cross · inverse(cov) by Cholesky, scaled to correlations first; a direction of no variance gets no gain. Throws where `cov` is not
 * positive definite.
 *
 * @example solveRight([4, 0, 0, 2], [4, 2, 0, 2], 2) // → [1, 1, 0, 1]
 */
export function solveRight(cov: number[], cross: number[], size: number): number[] {
	const scale = Array.from({ length: size }, (_, i) => Math.sqrt(Math.max(cell(cov, size, i, i), 1e-300)));
	const lower = cholesky(
		cov.map((x, k) => x / (el(scale, Math.floor(k / size)) * el(scale, k % size))),
		size
	);
	const x = cross.map((value, k) => value / el(scale, k % size));
	for (let row = 0; row < size; row++) {
		const at = row * size;
		// L·y = b, then Lᵀ·x = y, in place.
		for (let i = 0; i < size; i++) {
			const pivot = cell(lower, size, i, i);
			let sum = el(x, at + i);
			for (let k = 0; k < i; k++) sum -= cell(lower, size, i, k) * el(x, at + k);
			x[at + i] = pivot > 0 ? sum / pivot : 0;
		}
		for (let i = size - 1; i >= 0; i--) {
			const pivot = cell(lower, size, i, i);
			let sum = el(x, at + i);
			for (let k = i + 1; k < size; k++) sum -= cell(lower, size, k, i) * el(x, at + k);
			x[at + i] = pivot > 0 ? sum / pivot : 0;
		}
	}
	return x.map((value, k) => value / el(scale, k % size));
}
