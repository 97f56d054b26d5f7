import type { Kind, Method, MethodOf } from '$core/instruments';
import { display } from './display/editor';
import { drops } from './drops/editor';
import type { InstrumentEditor } from './editor';
import { scaleLine } from './scale-line/editor';
import { shades } from './shades/editor';
import { syringe } from './syringe/editor';

/** Every kind of instrument on the shelf, in the order it is offered in. */
const EDITORS = {
	syringe,
	drops,
	shades,
	display,
	'scale-line': scaleLine
} satisfies { [K in Kind]: InstrumentEditor<MethodOf<K>> };

/** How a kind is told apart and typed. What it is given is of its own kind. */
export const editorOf = ({ reads }: Pick<Method, 'reads'>): InstrumentEditor =>
	EDITORS[reads] as unknown as InstrumentEditor;
export const KINDS = Object.keys(EDITORS) as Kind[];
