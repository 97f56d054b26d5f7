/** Potassium falls out as it is shaken and stands: made-up first-order laws, so that what a leaflet asks for gives 99 %. */
export const PRECIPITATE = {
	shakeSeconds: 30,
	waitSeconds: 600,
	filterSeconds: 900,
	partMl: 5
} as const;

const DONE = -Math.log(0.005);

/** The share that has fallen out after so much shaking and standing, s. */
export const precipitated = (shaken: number, waited: number): number =>
	(1 - Math.exp((-DONE * shaken) / PRECIPITATE.shakeSeconds)) *
	(1 - Math.exp((-DONE * waited) / PRECIPITATE.waitSeconds));
