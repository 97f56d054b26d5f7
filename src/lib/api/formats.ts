import { Supplement } from '../../core/adjust';
import { Book } from '../../core/formats';
import { Method } from '../../core/instruments';

/** The formats that people share. */
const FORMATS = { 'tevrik.book/1': Book, 'tevrik.method/1': Method, 'tevrik.supplement/1': Supplement };

/**
 * A format as JSON Schema of draft 7, as strict readers take it: which of several kinds something is follows from its word, and
 * `discriminator`, by which our own checker finds its sentence, is not of the standard.
 */
export const formatSchema = (name: keyof typeof FORMATS): object =>
	JSON.parse(
		JSON.stringify(
			{ $schema: 'http://json-schema.org/draft-07/schema#', $id: name, ...FORMATS[name] },
			(key, value: unknown) => (key === 'discriminator' ? undefined : value)
		)
	) as object;
