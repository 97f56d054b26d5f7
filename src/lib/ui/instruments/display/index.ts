import { good } from '$core/base';
import type { DisplayMethod, DisplayReading } from '$core/instruments';
import { shownRead, shownTyped } from '../shown/draft';
import Note from '../shown/Note.svelte';
import type { InstrumentView } from '../view';
import Face from './Meter.svelte';

export const display: InstrumentView<DisplayMethod, DisplayReading> = {
	Face,
	Note,
	hint: 'As shown: 121 · 120-122 · <5',
	height: 'own',
	onPhone: 'below',
	pictured: false,
	read(method, draft) {
		const seen = shownRead(method, draft);
		return seen.ok ? good({ reads: 'display', ...seen.value }) : seen;
	},
	typed: shownTyped
};
