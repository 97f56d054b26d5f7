import type { Method } from '$core/methods';

/** What the field of each kind of instrument is called, an example in it, and the ways in which it may be typed. */
export const ENTRY: Record<Method['reads'], { label: string; example: string; hint: string }> = {
	syringe: {
		label: 'Plunger’s edge, mL',
		example: '0.48',
		hint: 'Drag the plunger, or type: 0,48 · used .52 · 0.46-0.48'
	},
	drops: { label: 'Drops', example: '17', hint: 'Tap, or type the count' },
	shades: { label: 'Matched', example: '3', hint: 'Put the marker, or type: 3 · 1-3 · <1 · >12' },
	display: { label: 'Shown', example: '121', hint: 'As shown: 121 · 120-122 · <5' },
	'scale-line': { label: 'Line', example: '1.0255', hint: 'Drag the line, or type: 1,0255 · 1.025-1.026' }
};
