import Type from 'typebox';
import { common, exact } from '../profile-parts';
import { shownIn, shownReadings, type Shown, type ShownReading } from '../shown-parts';

export const DisplayMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('display'),
		display: Type.Unsafe<Shown>(shownIn('resolution'))
	},
	exact
);
export type DisplayMethod = Type.Static<typeof DisplayMethod>;

export const DisplayReadings = shownReadings('display');
export type DisplayReading = ShownReading<'display'>;
