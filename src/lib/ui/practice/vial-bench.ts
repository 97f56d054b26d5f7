import { aslantDrop, fullSyringe, press, touchOff, type Syringe } from '$core/practice';
import type { Light } from '$core/photograph';
import { freshVial, lookAt, onward, type Look, type Recipe, type Vial } from '$core/titration';
import { chartOf, recipeOf, type PracticeKit } from './kits';

/** A titration under way on the screen. Plain data: the same hands give the same session. */
export interface VialBench {
	kit: PracticeKit;
	recipe: Recipe;
	light: Light;
	syringe: Syringe;
	vial: Vial;
	/** mL to the end of this sample. */
	endMl: number;
	/** Where the plunger's edge stood at the start of this fill, and how often it was filled again. */
	startEdge: number;
	refills: number;
	fellMl: number;
	/** Drops that fell, and s in which it streamed. */
	fallen: number;
	streamed: number;
	/** Of the vial: 0 standing to 1; a bottle's slant in degrees. */
	swirl: number;
	slant: number;
	/** A drop on its way, 0 at the tip to 1 in the vial; bubbles by their age, s. */
	falling: number[];
	bubbles: { x: number; age: number }[];
	stream: boolean;
	look: Look;
}

/** What hands do at a moment: both 0 to 1, and the slant of the bottle in degrees. */
export interface Hands {
	force: number;
	swirl: number;
	slant: number;
}

export interface Start {
	value: number;
	seed: number;
	light: Light;
	/** Share of the titrant to the end that is in already, mixed: a lesson about its end begins near it. */
	start?: number;
	sampleShare?: number;
	startEdge?: number;
	slant?: number;
	/** Share of what is titrated that went into the vial, where steps before it were not done as they should be. */
	share?: number;
}

export function begin(kit: PracticeKit, of: Start): VialBench {
	const { value, seed, light, start = 0, sampleShare = 1, startEdge = kit.fillMl, slant = 0, share = 1 } = of;
	const recipe = recipeOf(kit, value * share, sampleShare);
	const { endMl } = chartOf(kit, value * share, sampleShare);
	// What was run in before the lesson fell in whole drops too.
	const drops = Math.floor((start * endMl) / kit.dropMl);
	const before = drops * kit.dropMl;
	const vial = onward(recipe, freshVial(), 60, before, 1);
	const refills = kit.reads === 'syringe' ? Math.floor(before / kit.fillMl) : 0;
	const edge = startEdge - (kit.reads === 'syringe' ? before - refills * kit.fillMl : 0);
	return {
		kit,
		recipe,
		light,
		syringe: fullSyringe(kit.fillMl, kit.dropMl, seed, edge),
		vial,
		endMl,
		startEdge,
		refills,
		fellMl: before,
		fallen: drops,
		streamed: 0,
		swirl: 0,
		slant,
		falling: [],
		bubbles: [],
		stream: false,
		look: lookAt(recipe, vial, light)
	};
}

/** How long a drop falls, s, and a bubble lasts. */
const FALLS = 0.16;
const BUBBLE_LASTS = 1.6;
/** A swirl that nobody drives dies down in about this time, s. */
const DIES = 0.35;
/** No step is longer, s: a page that stood still does not make up for it. */
const LONGEST = 0.05;

/** The bench after a moment. */
export function tick(bench: VialBench, hands: Hands, elapsed: number): VialBench {
	const seconds = Math.min(LONGEST, elapsed);
	const { kit, recipe } = bench;
	const dropMl = kit.dropMl * (kit.reads === 'drops' ? aslantDrop(hands.slant) : 1);
	const full = kit.reads === 'drops' ? { ...bench.syringe, edge: kit.fillMl, dropMl } : bench.syringe;
	const pressed = press(full, hands.force, seconds);
	const swirl = Math.max(hands.swirl, bench.swirl * Math.exp(-seconds / DIES));
	const vial = onward(recipe, bench.vial, seconds, pressed.fell, swirl);
	const aged = bench.bubbles.map((b) => ({ ...b, age: b.age + seconds })).filter((b) => b.age < BUBBLE_LASTS);
	return {
		...bench,
		syringe: pressed.syringe,
		vial,
		fellMl: bench.fellMl + pressed.fell,
		fallen: bench.fallen + pressed.fallen,
		streamed: bench.streamed + (pressed.stream ? seconds : 0),
		stream: pressed.stream,
		swirl,
		slant: hands.slant,
		falling: [
			...bench.falling.map((at) => at + seconds / FALLS).filter((at) => at < 1),
			...Array.from({ length: Math.min(3, pressed.fallen) }, () => 0)
		],
		bubbles: pressed.stream && aged.length < 14 ? [...aged, { x: (bench.fellMl * 7919) % 1, age: 0 }] : aged,
		look: lookAt(recipe, vial, bench.light)
	};
}

/** The hanging drop, wiped off on the glass. */
export function touched(bench: VialBench): VialBench {
	const { syringe, fell } = touchOff(bench.syringe);
	const vial = onward(bench.recipe, bench.vial, 0, fell, bench.swirl);
	return { ...bench, syringe, vial, fellMl: bench.fellMl + fell };
}

/** An empty syringe filled again to its line. */
export const refilled = (bench: VialBench): VialBench => ({
	...bench,
	syringe: { ...bench.syringe, edge: bench.kit.fillMl, speed: 0 },
	refills: bench.refills + 1
});

/** What is seen of the vial, for who hears it: how far it has turned, in five steps, and whether it turned where the drops fall. */
export function heard({ kit, look }: VialBench): string {
	const [from, to] = kit.turns;
	const steps = [from, `${from}, a little ${to}`, `between ${from} and ${to}`, `${to}, a little ${from}`, to];
	const all = steps[Math.min(4, Math.floor(look.turned * 5))] ?? to;
	return look.plumeTurned - look.turned > 0.3 ? `${all}; ${to} where the drops fall` : all;
}

/** The colours a leaflet shows, under the lamp it is held in: before, at the end, and once it has turned. */
export function leafletColours({
	kit,
	recipe,
	endMl,
	light
}: VialBench): { name: string; colour: Look['colour'] }[] {
	const mixed = (ml: number) => lookAt(recipe, onward(recipe, freshVial(), 600, ml, 1), light).colour;
	return [
		{ name: kit.turns[0], colour: mixed(0) },
		{ name: 'the end', colour: mixed(endMl) },
		{ name: kit.turns[1], colour: mixed(1.15 * endMl) }
	];
}
