import Type from 'typebox';
import { common, exact } from '../profile-parts';
import { shownIn, shownReadings, type Shown, type ShownReading } from '../shown-parts';

export const ScaleLineMethod = Type.Object(
	{
		...common,
		reads: Type.Literal('scale-line'),
		display: Type.Unsafe<Shown>(shownIn('graduation'))
	},
	exact
);
export type ScaleLineMethod = Type.Static<typeof ScaleLineMethod>;

export const ScaleLineReadings = shownReadings('scale-line');
export type ScaleLineReading = ShownReading<'scale-line'>;
