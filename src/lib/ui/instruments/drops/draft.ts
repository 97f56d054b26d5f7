import type { DropsReading } from '$core/instruments';
import { bad, good, type Outcome } from '$core/base';
import { parseEntry } from '$core/quantities';

export interface DropsDraft {
	doubtful: number;
	confirming: number;
}
interface Typed extends DropsDraft {
	text: string;
}

export function dropsRead({ text, doubtful, confirming }: Typed): Outcome<DropsReading> {
	const entry = parseEntry(text);
	if (!entry.ok) return entry;
	const { number, after } = entry.value;
	if (
		number.kind !== 'exact' ||
		!Number.isInteger(number.value) ||
		number.value < 0 ||
		!/^(drops?|d)?$/.test(after)
	)
		return bad('', 'drops are counted: write a whole number');
	return good({
		reads: 'drops',
		drops: number.value,
		...(doubtful ? { doubtful: Math.min(doubtful, number.value) } : {}),
		...(confirming ? { confirming: Math.min(confirming, number.value) } : {})
	});
}

export const dropsTyped = ({ drops, doubtful = 0, confirming = 0 }: DropsReading): Typed => ({
	text: String(drops),
	doubtful,
	confirming
});
