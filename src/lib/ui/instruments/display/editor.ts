import type { DisplayMethod } from '$core/instruments';
import type { InstrumentEditor } from '../editor';
import { displayIn } from '../shown/display-in';
import Chart from '../shown/KitChart.svelte';
import Drawing from './Drawing.svelte';
import Fields from './EditFields.svelte';

export const display: InstrumentEditor<DisplayMethod> = {
	title: 'Meter',
	looks: [{ id: 'meter', title: 'Meter', hint: 'shows a number' }],
	Drawing,
	Fields,
	Chart,
	typeOwn: '',
	scaleOf: (method) => method.display,
	begin: (common) => ({
		...common,
		reads: 'display',
		display: { resolution: 1, absolute: 5, relative: 0.05, unit: common.unit }
	}),
	kit: (template, { parameter, unit }) => ({
		...template,
		display: displayIn(template.display, parameter, unit)
	})
};
