import type { SyringeMethod, SyringeReading } from '$core/instruments';
import type { InstrumentView } from '../view';
import Convention from './Convention.svelte';
import { syringeRead, syringeTyped } from './draft';
import Face from './Face.svelte';
import Fields from './Fields.svelte';
import Note from './Note.svelte';

export const syringe: InstrumentView<SyringeMethod, SyringeReading> = {
	Face,
	Convention,
	Fields,
	Note,
	entry: {
		label: ({ readAs }) => `Plunger’s edge, mL ${readAs}`,
		example: '0.48',
		inputmode: 'decimal'
	},
	hint: 'Drag the plunger, or type: 0,48 · used .52 · 0.46-0.48',
	height: 'page',
	onPhone: 'beside',
	pictured: true,
	fresh: (method) => ({ readAs: method.syringe.readAs }),
	read: (_method, draft) => syringeRead(draft),
	typed: syringeTyped
};
