import { v7 as uuid } from 'uuid';

/** A sheet of one alkalinity an hour from a year's beginning on, as it is sent to be taken in. */
export const sheetForm = (rows: number, year: number, id: string = uuid()): FormData =>
	sheetOf(['alkalinity'], rows, year, id);

/** The same of several parameters, each in its own unit. */
export function sheetOf(parameters: string[], rows: number, year: number, id: string = uuid()): FormData {
	const lines = Array.from(
		{ length: rows },
		(_, n) =>
			`${new Date(Date.UTC(year, 0, 1, n)).toISOString().slice(0, 16).replace('T', ' ')},${parameters.map(() => `8.${n % 10}`).join(',')}`
	);
	const form = new FormData();
	form.set('file', new File([[`date,${parameters.join(',')}`, ...lines].join('\n')], 'old.csv'));
	form.set(
		'choice',
		JSON.stringify({
			id,
			name: `book of ${year}`,
			separator: ',',
			layout: {
				headerRow: 0,
				decimal: '.',
				order: 'ymd',
				hour: 12,
				columns: [
					{ kind: 'date' },
					...parameters.map((parameter) => ({ kind: 'value', parameter, unit: null }))
				],
				units: {}
			}
		})
	);
	return form;
}
