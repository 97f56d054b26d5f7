import Type from 'typebox';
import { WISHES, type CorrectRequest, type CorrectResult, type Wish } from '../../core/adjust';

const exact = { additionalProperties: false } as const;

/** What a keeper asks of a plan. */
export const PlanWish = Type.Object(
	{
		prefer: Type.Optional(Type.Unsafe<Wish>({ type: 'string', enum: [...WISHES] })),
		days: Type.Optional(Type.Integer({ minimum: 3, maximum: 40 })),
		/** Bottles that are to be left alone, by id. */
		without: Type.Optional(Type.Array(Type.String({ maxLength: 80 }), { maxItems: 16 })),
		/** No water change before this day of the plan; `never`: none. */
		noChangeBefore: Type.Optional(
			Type.Union([Type.Integer({ minimum: 0, maximum: 40 }), Type.Literal('never')])
		)
	},
	exact
);
export type PlanWish = Type.Static<typeof PlanWish>;

/** The same in an address: bottles with commas between. */
export const PlanQuery = Type.Object(
	{
		prefer: Type.Optional(Type.Unsafe<Wish>({ type: 'string', enum: [...WISHES] })),
		days: Type.Optional(Type.String({ pattern: '^([3-9]|[123][0-9]|40)$' })),
		without: Type.Optional(Type.String({ maxLength: 1300 })),
		noChangeBefore: Type.Optional(Type.String({ pattern: '^(never|[0-9]|[123][0-9]|40)$' }))
	},
	exact
);
export type PlanQuery = Type.Static<typeof PlanQuery>;

/** @example wishOf({ days: '14' }) // → { days: 14 } */
export const wishOf = ({ prefer, days, without, noChangeBefore }: PlanQuery): PlanWish => ({
	...(prefer ? { prefer } : {}),
	...(days ? { days: Number(days) } : {}),
	...(without ? { without: without.split(',').slice(0, 16) } : {}),
	...(noChangeBefore ? { noChangeBefore: noChangeBefore === 'never' ? 'never' : Number(noChangeBefore) } : {})
});

export const SavePlan = Type.Object({ systemId: Type.String({ format: 'uuid' }), wish: PlanWish }, exact);
export type SavePlan = Type.Static<typeof SavePlan>;

/** A step that was done: when, and how much where it was another amount; or left out. */
export const DoneStep = Type.Object(
	{
		at: Type.String({ format: 'date-time' }),
		amount: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 })),
		leftOut: Type.Optional(Type.Boolean())
	},
	exact
);
export type DoneStep = Type.Static<typeof DoneStep>;

/** A plan as it was made, with what it rests on and what of it was done, by the place of its step. */
export interface KeptPlan {
	wish: PlanWish;
	request: CorrectRequest;
	result: CorrectResult;
	done: Record<number, DoneStep & { events: string[] }>;
}

/** Why a plan made now is another than the one that is followed: what is known now, and what was expected. */
export interface PlanChange {
	parameter: string;
	expected: number;
	now: number;
	standardDeviation: number;
	/** What tells them apart: more than noise, or not. */
	beyondNoise: boolean;
	/** mL or g that are left to pour by the plan of before and of now. */
	before: number;
	after: number;
	/** The level was odd or unsure and is not now, or the other way round. */
	refusedBefore: string | null;
	refusedNow: string | null;
}

/** The water, the plan for it, and the plan that is followed. */
export interface Planned {
	request: CorrectRequest;
	result: CorrectResult;
	wish: PlanWish;
	/** The names of what is poured. */
	names: Record<string, string>;
	kept: (KeptPlan & { id: string; madeAt: string; changes: PlanChange[] }) | null;
	/** Why there is none at all: nothing measured by a chart of one's own. */
	nothing: boolean;
}
