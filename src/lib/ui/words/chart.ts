import type { ChartAsk } from '$core/calibration';
import { formatUnit } from '$core/quantities';
import { nameInSentence } from '$core/catalogue';
import { figures } from '../habits';

/** What is asked about a leaflet's chart as a whole, as the keeper is asked it. */
export function askInWords(
	{ kind, index, value, unit: other }: ChartAsk,
	{ parameter, unit, reads }: { parameter: string; unit: string; reads: 'syringe' | 'drops' }
): string {
	const title = nameInSentence(parameter);
	// What follows from a line is no surer than its rounding.
	const digits = kind === 'row-shift' || kind === 'offset' ? 2 : 4;
	const amount = value === undefined ? '' : `${figures(value, digits)} ${formatUnit(unit)}`.trim();
	const from = index === undefined ? '' : ` from line ${index + 1} on`;
	const line = index === undefined ? 'a line' : `line ${index + 1}`;
	switch (kind) {
		case 'row-shift':
			return `Are the two columns side by side${from}? One seems to stand a row too high or too low${amount ? `: with nothing used it would be ${amount}` : ''}.`;
		case 'points-lost':
			return `Are decimal points missing? ${amount || 'A reading'} is not what such a chart has.`;
		case 'columns':
			return `Are the columns swapped? The left one should hold ${reads === 'drops' ? 'drops, which are whole numbers' : 'readings of the syringe'}.`;
		case 'unit':
			return `Is the chart in ${formatUnit(other ?? '') || other}? A chart of ${title} that ends at ${amount} is unusual.`;
		case 'thousands':
			return index === undefined
				? `Are these thousands? A chart of ${title} that ends at ${amount} is unusual.`
				: `Was 1,280 typed as 1.280 in ${line}? Write thousands without a mark.`;
		case 'turns-back':
			return `The values turn back at ${line}. A chart only rises, or only falls.`;
		case 'offset':
			return `With nothing used this chart says ${amount}. Is a line missing or wrong, or the syringe of another size?`;
		case 'range':
			return `A chart of ${title} that ends at ${amount} is unusual. Are the numbers and the unit right?`;
	}
}
