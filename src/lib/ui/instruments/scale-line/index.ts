import { good } from '$core/base';
import type { ScaleLineMethod, ScaleLineReading } from '$core/instruments';
import { shownRead, shownTyped } from '../shown/draft';
import Note from '../shown/Note.svelte';
import type { InstrumentView } from '../view';
import Fields from './Fields.svelte';
import Face from './ScaleLine.svelte';

export const scaleLine: InstrumentView<ScaleLineMethod, ScaleLineReading> = {
	Face,
	Fields,
	Note,
	entry: { label: () => 'Line', example: '1.0255', inputmode: 'decimal' },
	hint: 'Drag the line, or type: 1,0255 · 1.025-1.026',
	height: 'page',
	onPhone: 'beside',
	pictured: false,
	read(method, draft) {
		const seen = shownRead(method, draft);
		return seen.ok ? good({ reads: 'scale-line', ...seen.value }) : seen;
	},
	typed: shownTyped
};
