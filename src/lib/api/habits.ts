import Type from 'typebox';
import { Technique } from '../../core/instruments';
import { parametersWith, type ParameterId } from '../../core/catalogue';
import { UNITS } from '../../core/quantities';
import { oneOf } from '../../core/base';
import { exact } from './parts';

const unitsOf = (quantity: ParameterId) => Type.Optional(oneOf(UNITS[quantity].map((u) => u.name)));
/** Of each parameter whose unit keepers choose. */
const chosen = Object.fromEntries(parametersWith('unit-chosen').map((id) => [id, unitsOf(id)])) as Record<
	ParameterId,
	ReturnType<typeof unitsOf>
>;

/** What a person counts in, where it is not what Tevrik keeps. Stored values stay as they are. */
export const Units = Type.Object(
	{
		...chosen,
		volume: Type.Optional(oneOf(['L', 'US gal', 'UK gal'])),
		length: Type.Optional(oneOf(['cm', 'in'])),
		/** What a dose is measured with. */
		dose: Type.Optional(oneOf(['mL', 'g', 'oz']))
	},
	exact
);
export type Units = Type.Static<typeof Units>;

/** Units, language and hours of one person, used wherever a number or a date is shown or typed. */
export const Habits = Type.Object(
	{
		/** A language tag (BCP 47) for numbers and dates; without one the browser's. */
		language: Type.Optional(Type.String({ pattern: '^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$', maxLength: 35 })),
		units: Type.Optional(Units),
		/** The first day of a week, 1 Monday to 7 Sunday; without one the language's. */
		weekStart: Type.Optional(Type.Integer({ minimum: 1, maximum: 7 })),
		/** What practice has shown of their hand, where they want it used: by kind of instrument and parameter ("syringe alkalinity"). */
		hands: Type.Optional(Type.Record(Type.String({ maxLength: 60 }), Technique, { maxProperties: 40 })),
		/** When reminders come, on the tank's clock. */
		remindAt: Type.Optional(Type.String({ pattern: '^([01]\\d|2[0-3]):[0-5]\\d$' }))
	},
	exact
);
export type Habits = Type.Static<typeof Habits>;
