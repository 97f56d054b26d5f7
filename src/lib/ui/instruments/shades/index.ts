import type { ShadesMethod, ShadesReading } from '$core/instruments';
import type { InstrumentView } from '../view';
import { shadesRead, shadesTyped } from './draft';
import Face from './Shades.svelte';

export const shades: InstrumentView<ShadesMethod, ShadesReading> = {
	Face,
	entry: { label: () => 'Matched', example: '3', inputmode: 'text' },
	hint: 'Put the marker, or type: 3 · 1-3 · <1 · >12',
	height: 'own',
	onPhone: 'below',
	pictured: true,
	read: shadesRead,
	typed: shadesTyped
};
