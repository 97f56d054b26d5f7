import type { SyringeReading } from '$core/instruments';
import type { ReaderView } from '../reader-session';

/** What was read on the syringe, where that is a reading. */
export const readOn = ({ request, result }: ReaderView): SyringeReading | undefined =>
	result && request?.reading.reads === 'syringe' ? request.reading : undefined;
