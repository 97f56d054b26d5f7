import type { DropsMethod } from '$core/instruments';
import { withOwnChart } from '$core/methods';
import type { InstrumentEditor } from '../editor';
import More from '../titration/SampleField.svelte';
import Drawing from './Drawing.svelte';
import Fields from './EditFields.svelte';
import Chart from './KitChart.svelte';
import { perDropOf } from './per-drop';

export const drops: InstrumentEditor<DropsMethod> = {
	title: 'Drops',
	looks: [{ id: 'drops', title: 'Drops', hint: 'counted' }],
	Drawing,
	Fields,
	Chart,
	More,
	typeOwn: 'Type two lines or more of your leaflet’s chart.',
	scaleOf: ({ scale }) => scale,
	begin: (common) => ({
		...common,
		reads: 'drops',
		countConfirming: true,
		scale: { kind: 'linear', perDrop: 1 }
	}),
	kit: (template) => template,
	lined: {
		reads: 'drops',
		fillMl: () => 1,
		charted: (method, fit, lines) => ({
			...method,
			lines,
			scale:
				fit.scale.kind === 'table'
					? fit.scale
					: { kind: 'linear', perDrop: fit.perDrop ?? 0, atZero: fit.scale.atZero }
		}),
		withoutLines(method, draft) {
			const perDrop = perDropOf(draft);
			return Number.isNaN(perDrop)
				? undefined
				: withOwnChart({ ...method, unit: draft.unit, scale: { kind: 'linear', perDrop, atZero: 0 } });
		}
	}
};
