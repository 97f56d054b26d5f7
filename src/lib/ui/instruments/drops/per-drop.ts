import { number } from '$lib/ui/shelf/typed';

/** What one drop stands for, as it was typed: NaN where that is no number above nothing. */
export const perDropOf = ({ perDrop = '' }: { perDrop?: string }): number =>
	number(perDrop) > 0 ? number(perDrop) : NaN;
