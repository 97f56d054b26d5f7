import type { SyringeMethod } from '$core/instruments';
import { number } from '$lib/ui/shelf/typed';
import type { InstrumentEditor } from '../editor';
import Drawing from './Drawing.svelte';
import Fields from './EditFields.svelte';
import Chart from './KitChart.svelte';
import More from './KitMore.svelte';

export const syringe: InstrumentEditor<SyringeMethod> = {
	title: 'Syringe',
	looks: [{ id: 'syringe', title: 'Syringe', hint: 'read at the plunger' }],
	Drawing,
	Fields,
	Chart,
	More,
	typeOwn: 'Type two lines or more of your leaflet’s chart.',
	scaleOf: ({ scale }) => scale,
	begin: (common) => ({
		...common,
		reads: 'syringe',
		syringe: { fillMl: 1, graduationMl: 0.01, readAs: 'left' },
		scale: { kind: 'linear', perMl: 16, atZero: 0 },
		samples: [{ id: 'full', ml: 5, times: 1 }]
	}),
	kit: (template, { fillMl }) => ({
		...template,
		syringe: { ...template.syringe, fillMl: number(fillMl) }
	}),
	lined: {
		reads: 'syringe',
		fillMl: ({ syringe: { fillMl } }) => fillMl,
		charted: (method, fit, lines) => ({
			...method,
			lines,
			syringe: { ...method.syringe, readAs: fit.readAs ?? method.syringe.readAs },
			scale:
				fit.scale.kind === 'table'
					? fit.scale
					: { kind: 'linear', perMl: fit.perMl ?? 0, atZero: fit.scale.atZero }
		})
	}
};
