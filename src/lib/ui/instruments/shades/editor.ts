import type { ShadesMethod } from '$core/instruments';
import { withOwnChart } from '$core/methods';
import { SECOND, patchValues } from '$lib/ui/shelf/typed';
import type { InstrumentEditor } from '../editor';
import Drawing from './Drawing.svelte';
import Fields from './EditFields.svelte';
import Chart from './KitChart.svelte';

const formOf = (look: string): NonNullable<ShadesMethod['form']> =>
	look === 'wheel' || look === 'block' ? look : 'card';

export const shades: InstrumentEditor<ShadesMethod> = {
	title: 'Card, wheel or block',
	looks: [
		{ id: 'card', title: 'Colour card', hint: 'beside the vial' },
		{ id: 'wheel', title: 'Colour wheel', hint: 'turned until it matches' },
		{ id: 'block', title: 'Sliding block', hint: 'slid until it matches' }
	],
	Drawing,
	lookOf: ({ form }) => form ?? 'card',
	Fields,
	Chart,
	typeOwn: 'Type the values of your card’s patches.',
	scaleOf: ({ shades: printed, columns }) => [printed, columns],
	begin: (common) => ({ ...common, reads: 'shades', form: 'card', shades: [0, 1, 2, 5, 10] }),
	kit(template, { look, unit, patches, second = '' }) {
		const form = formOf(look);
		const printed = patchValues(patches);
		if (!printed.length) return { ...template, form, chart: 'template' };
		const high = patchValues(second);
		const columns = high.length ? [{ name: SECOND, shades: high }] : [];
		return withOwnChart({ ...template, unit, form, columns, shades: printed });
	}
};
