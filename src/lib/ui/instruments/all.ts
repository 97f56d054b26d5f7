import type { Kind, Method, MethodOf, ReadingOf } from '$core/instruments';
import { display } from './display';
import { drops } from './drops';
import { scaleLine } from './scale-line';
import { shades } from './shades';
import { syringe } from './syringe';
import type { InstrumentView } from './view';

/** Every kind of instrument in the reader. */
const VIEWS = {
	syringe,
	drops,
	shades,
	display,
	'scale-line': scaleLine
} satisfies { [K in Kind]: InstrumentView<MethodOf<K>, ReadingOf<K>> };

/** How the instrument of a method, or of a reading, is drawn, typed and set. What it is given is of its own kind. */
export const viewOf = ({ reads }: Pick<Method, 'reads'>): InstrumentView =>
	VIEWS[reads] as unknown as InstrumentView;
