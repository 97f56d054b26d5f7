import Type from 'typebox';
import { CorrectRequest, CorrectResult, PlanWish, WISHES, type Move } from '../../core/adjust';
import { CHANGE } from './plan-query';
import { oneOf } from '../../core/base';
import { exact, id, moment, orNull } from './parts';

const ONE_MOVE = '[^:,]{1,80}:[0-5]?[0-9]:[0-5]?[0-9](:[0-9]{1,6}([.][0-9]{1,6})?)?';
/** The same in an address: bottles with commas between, moves as bottle:from:to:amount, of a water change as change:from:to. */
export const PlanQuery = Type.Object(
	{
		prefer: Type.Optional(oneOf(WISHES)),
		days: Type.Optional(Type.String({ pattern: '^([3-9]|[123][0-9]|40)$' })),
		without: Type.Optional(Type.String({ maxLength: 1300 })),
		noChangeBefore: Type.Optional(Type.String({ pattern: '^(never|[0-9]|[123][0-9]|40)$' })),
		moves: Type.Optional(Type.String({ pattern: `^(${ONE_MOVE})(,${ONE_MOVE}){0,23}$`, maxLength: 2600 }))
	},
	exact
);
export type PlanQuery = Type.Static<typeof PlanQuery>;

/** @example wishOf({ days: '14' }) // → { days: 14 } */
export const wishOf = ({ prefer, days, without, noChangeBefore, moves }: PlanQuery): PlanWish => ({
	...(prefer ? { prefer } : {}),
	...(days ? { days: Number(days) } : {}),
	...(without ? { without: without.split(',').slice(0, 16) } : {}),
	...(noChangeBefore
		? { noChangeBefore: noChangeBefore === 'never' ? 'never' : Number(noChangeBefore) }
		: {}),
	...(moves ? { moves: moves.split(',').map(moveOf) } : {})
});
function moveOf(text: string): Move {
	const [of = '', from, to, amount] = text.split(':');
	return {
		...(of === CHANGE ? {} : { supplement: of }),
		from: Number(from),
		to: Number(to),
		...(amount && Number(amount) > 0 ? { amount: Number(amount) } : {})
	};
}

export const SavePlan = Type.Object({ systemId: id, wish: PlanWish }, exact);
export type SavePlan = Type.Static<typeof SavePlan>;

/** A step that was done: when, and how much where it was another amount; or left out. */
export const DoneStep = Type.Object(
	{
		at: moment,
		amount: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 })),
		leftOut: Type.Optional(Type.Boolean())
	},
	exact
);
export type DoneStep = Type.Static<typeof DoneStep>;

/** A plan as it was made, with what it rests on and what of it was done, by the place of its step. */
export const KeptPlan = Type.Object(
	{
		wish: PlanWish,
		request: CorrectRequest,
		result: CorrectResult,
		done: Type.Record(
			Type.String({ pattern: '^[0-9]+$' }),
			Type.Object({ ...DoneStep.properties, events: Type.Array(id) }, exact)
		)
	},
	exact
);
export type KeptPlan = Type.Static<typeof KeptPlan>;

/** As `core/adjust` says it. */
export const PlanChange = Type.Object(
	{
		parameter: Type.String(),
		expected: Type.Number(),
		now: Type.Number(),
		standardDeviation: Type.Number(),
		beyondNoise: Type.Boolean(),
		before: Type.Number(),
		after: Type.Number(),
		unit: Type.String(),
		refusedBefore: orNull(Type.String()),
		refusedNow: orNull(Type.String())
	},
	exact
);
export type PlanChange = Type.Static<typeof PlanChange>;

/** The water, the plan for it, and the plan that is followed. */
export const Planned = Type.Object(
	{
		request: CorrectRequest,
		result: CorrectResult,
		wish: PlanWish,
		/** The names of what is poured. */
		names: Type.Record(Type.String(), Type.String()),
		kept: orNull(
			Type.Object({ ...KeptPlan.properties, id, madeAt: moment, changes: Type.Array(PlanChange) }, exact)
		),
		/** Why there is none at all: nothing measured by a chart of one's own. */
		nothing: Type.Boolean()
	},
	exact
);
export type Planned = Type.Static<typeof Planned>;
