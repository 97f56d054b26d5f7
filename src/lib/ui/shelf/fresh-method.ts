import { instrumentOf, type Method } from '$core/instruments';
import { editorOf } from '$lib/ui/instruments/editors';
import { PARAMETERS } from '$core/catalogue';

const common = {
	format: 'tevrik.method/1',
	id: 'my-method',
	name: '',
	parameter: 'alkalinity',
	unit: 'dKH'
} as const;

/** A method to begin with, of one kind. */
export function freshMethod(reads: Method['reads'], keep: Partial<Method> = {}): Method {
	const { name = '', parameter = common.parameter, unit = common.unit, steps, stepsBy, pack, notes } = keep;
	// What is titrated can be less another answer, by whichever glass it is counted.
	const { takeAway, continues } = instrumentOf({ reads }).titration ? keep : {};
	const base = {
		...common,
		name,
		parameter,
		unit,
		...(steps ? { steps } : {}),
		...(stepsBy ? { stepsBy } : {}),
		...(pack ? { pack } : {}),
		...(notes ? { notes } : {}),
		...(takeAway ? { takeAway } : {}),
		...(continues ? { continues } : {})
	};
	return editorOf({ reads }).begin(base);
}

/** The same method under another name, to be changed; of a template the steps stay the template's until they are looked at. */
export const copyOf = (method: Method): Method => ({
	...method,
	name: `${method.name}, my own`,
	...(method.chart === 'template' && method.steps ? { stepsBy: 'template' } : {})
});

/** A name for files and links, made from the method's. */
export function slugOf(name: string, parameter: string): string {
	const slug = name
		.normalize('NFKD')
		.toLowerCase()
		.replace(/[^a-z0-9]+/g, '-')
		.replace(/^-+|-+$/g, '')
		.slice(0, 60);
	return slug || `${PARAMETERS.find((p) => p.id === parameter)?.id ?? 'my'}-method`;
}
