import type { Step } from '../../instruments';

/** Share of the expected titrant that goes in quickly: a tank a third lower than expected has not turned by then. */
const FAST = 0.6;

/** Steps that many methods share, in the keeper's words. */
export const rinse = (): Step => ({
	do: 'rinse',
	text: 'Rinse the vial with the water to be tested; wipe it dry.'
});
export const draw = (ml: number): Step => ({
	do: 'measure',
	text: `Draw ${ml} mL of the water into the vial.`
});
export const add = (what: string, caution?: string): Step => ({
	do: 'add',
	text: `Add ${what}.`,
	...(caution ? { caution } : {})
});
export const swirl = (seconds: number): Step => ({ do: 'mix', text: 'Swirl.', seconds });
export const shake = (seconds: number): Step => ({
	do: 'mix',
	text: 'Cap the vial, not a finger, and shake.',
	seconds
});
export const wait = (seconds: number, within: number): Step => ({
	do: 'wait',
	text: 'Let it stand.',
	seconds,
	within
});
export const titrate = (turns: string, seconds = 90): Step => ({
	do: 'titrate',
	text: `Fill the syringe so that the plunger’s edge stands at the full line. Drip and swirl until ${turns} and stays.`,
	seconds,
	fast: FAST
});
export const drip = (turns: string, seconds = 60): Step => ({
	do: 'titrate',
	text: `Hold the bottle upright. Count drops, swirling after each, until ${turns} and stays.`,
	seconds
});
export const readPlunger = (): Step => ({ do: 'read', text: 'Read the plunger’s edge, not the liquid’s.' });
export const match = (how: string): Step => ({ do: 'match', text: how, seconds: 20 });

export const ACID = 'The titrant is a dilute acid: keep it off skin and eyes.';
export const ALKALI = 'Strongly alkaline: keep it off skin and eyes, rinse at once if touched.';
export const TOXIC =
	'May be toxic: gloves, out of reach of children, never into the tank; dispose by the leaflet and local rules.';
