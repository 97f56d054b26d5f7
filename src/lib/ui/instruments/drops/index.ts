import type { DropsMethod, DropsReading } from '$core/instruments';
import type { InstrumentView } from '../view';
import { dropsRead, dropsTyped } from './draft';
import Face from './Drops.svelte';

export const drops: InstrumentView<DropsMethod, DropsReading> = {
	Face,
	entry: { label: () => 'Drops', example: '17', inputmode: 'decimal' },
	hint: 'Tap, or type the count',
	height: 'page',
	onPhone: 'below',
	pictured: false,
	read: (_method, draft) => dropsRead(draft),
	typed: dropsTyped
};
