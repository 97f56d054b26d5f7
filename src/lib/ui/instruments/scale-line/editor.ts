import type { ScaleLineMethod } from '$core/instruments';
import type { InstrumentEditor } from '../editor';
import { displayIn } from '../shown/display-in';
import Chart from '../shown/KitChart.svelte';
import Drawing from './Drawing.svelte';
import Fields from './EditFields.svelte';

export const scaleLine: InstrumentEditor<ScaleLineMethod> = {
	title: 'Scale',
	looks: [{ id: 'glass', title: 'Glass with a scale', hint: 'refractometer, hydrometer, thermometer' }],
	Drawing,
	Fields,
	Chart,
	typeOwn: '',
	scaleOf: ({ display }) => display,
	begin: (common) => ({
		...common,
		reads: 'scale-line',
		display: { graduation: 0.001, unit: common.unit, form: 'refractometer' }
	}),
	kit: (template, { parameter, unit }) => ({
		...template,
		display: displayIn(template.display, parameter, unit)
	})
};
