import { dropsFrom } from '../titration';

/** A titration syringe in a hand, tip down; all in mL. */
export interface Syringe {
	fillMl: number;
	/** Of the drop its tip makes. */
	dropMl: number;
	/** Left by the plunger's edge: what is read. */
	edge: number;
	/** Air between the plunger and the liquid. */
	air: number;
	/** At the tip, pressed out and not fallen. */
	hanging: number;
	/** At which the hanging drop falls. */
	next: number;
	/** mL/s. */
	speed: number;
	/** How many drops have fallen, and the number its chances follow from. */
	drops: number;
	seed: number;
}

/** A plunger sticks until it is pressed this hard (0 to 1), then slides on with less. */
const STICKS = 0.22;
const SLIDES = 0.1;
/** mL/s for each part of force beyond that, of a syringe of 1 mL. */
const FLOW = 0.3;
/** How soon it takes up speed and loses it, s. */
const YIELDS = 0.06;
/** Faster than so many drops a second, a tip streams. */
const STREAM_DROPS = 7;

export const fullSyringe = (fillMl: number, dropMl: number, seed: number, edge = fillMl): Syringe => ({
	fillMl,
	dropMl,
	edge,
	air: 0.04 * fillMl,
	hanging: 0,
	next: dropsFrom(dropMl, seed)().ml,
	speed: 0,
	drops: 0,
	seed
});

/** What came of pressing for a moment: the syringe, mL that fell, whether as a stream, and drops one by one. */
interface Pressed {
	syringe: Syringe;
	fell: number;
	stream: boolean;
	fallen: number;
}

/**
 * A syringe pressed with a force (0 to 1) for a moment: the plunger sticks, then slides; slowly it drips, fast it streams.
 *
 * @example press(fullSyringe(1, 0.012, 1), 0.2, 1).fell // → 0
 */
export function press(syringe: Syringe, force: number, seconds: number): Pressed {
	const slides = syringe.speed > 1e-6 ? force > SLIDES : force > STICKS;
	const wanted = slides ? FLOW * syringe.fillMl * (force - SLIDES) : 0;
	const speed = syringe.speed + (wanted - syringe.speed) * (1 - Math.exp(-seconds / YIELDS));
	const moved = Math.min(syringe.edge, speed * seconds);
	const stream = speed > STREAM_DROPS * syringe.dropMl;
	let { hanging, next, drops } = syringe;
	hanging += moved;
	let fell = 0;
	let fallen = 0;
	if (stream) [fell, hanging] = [hanging, 0];
	else
		while (hanging >= next) {
			fell += next;
			hanging -= next;
			drops++;
			fallen++;
			next = dropsFrom(syringe.dropMl, syringe.seed + 7919 * drops)().ml;
		}
	const still = slides || speed > 1e-4 ? speed : 0;
	return {
		syringe: { ...syringe, edge: syringe.edge - moved, hanging, next, drops, speed: still },
		fell,
		stream,
		fallen
	};
}

/** The hanging drop wiped off on the glass: it runs into the vial. */
export const touchOff = (syringe: Syringe): { syringe: Syringe; fell: number } => ({
	syringe: { ...syringe, hanging: 0 },
	fell: syringe.hanging
});

/** A bottle held so far from upright, degrees, gives drops of this share: less of the tip's rim carries them. */
export const aslantDrop = (degrees: number): number =>
	1 - 0.3 * Math.sin((Math.min(90, Math.abs(degrees)) * Math.PI) / 180) ** 2;
