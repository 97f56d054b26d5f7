import Type from 'typebox';
import type { TrendEvent } from './schema';

const exact = { additionalProperties: false } as const;
const word = Type.String({ minLength: 1, maxLength: 40 });
const text = Type.String({ maxLength: 500 });
const value = Type.Number({ minimum: -1e6, maximum: 1e6 });

const Dose = Type.Object(
	{
		kind: Type.Literal('dose'),
		parameter: word,
		/** What it should change, in the parameter's own unit. */
		change: value,
		supplement: Type.Optional(text),
		/** The bottle on its keeper's shelf. */
		supplementId: Type.Optional(word),
		/** How much was poured, by volume or by weight. */
		amountMl: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 })),
		amountG: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 }))
	},
	exact
);
const DosingRate = Type.Object(
	{
		kind: Type.Literal('dosing'),
		parameter: word,
		/** Acts until the next of its parameter, in the parameter's own unit a day. */
		perDay: value,
		supplement: Type.Optional(text),
		supplementId: Type.Optional(word),
		/** What the dosing pump gives of it. */
		mlPerDay: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 }))
	},
	exact
);
const WaterChange = Type.Object(
	{
		kind: Type.Literal('water-change'),
		fraction: Type.Number({ exclusiveMinimum: 0, maximum: 1 }),
		/** What is known of the new water, by parameter, in its own unit. */
		newWater: Type.Record(Type.String(), value)
	},
	exact
);
const Note = Type.Object(
	{
		kind: Type.Unsafe<'note' | 'feeding' | 'livestock' | 'equipment' | 'new pack' | 'death'>({
			type: 'string',
			enum: ['note', 'feeding', 'livestock', 'equipment', 'new pack', 'death']
		}),
		text
	},
	exact
);

/** A proven bias is taken off what a kit reads, from this moment to its next pack; nothing of the water changes. */
const Correction = Type.Object(
	{
		kind: Type.Literal('correction'),
		parameter: word,
		/** The kit's id, and its name as it was then. */
		methodId: word,
		method: text,
		/** What it reads too much, and what is still not known of it, as a standard uncertainty, in the parameter's own unit. */
		takenOff: value,
		standardUncertainty: Type.Number({ minimum: 0, maximum: 1e6 }),
		/** What it was checked with. */
		by: Type.String({ minLength: 1, maxLength: 120 })
	},
	exact
);

/** Water that was drawn at this moment and posted to a lab. */
const Posted = Type.Object({ kind: Type.Literal('posted'), lab: text, sample: word }, exact);

const dated = { at: Type.String({ format: 'date-time' }) };
/** What moves the water itself, with its moment. */
export const DatedWaterEvent = Type.Union([
	Type.Object({ ...dated, ...Dose.properties }, exact),
	Type.Object({ ...dated, ...DosingRate.properties }, exact),
	Type.Object({ ...dated, ...WaterChange.properties }, exact)
]);

/** Something that was done to the water or the tank. */
export const WaterEvent = Type.Union([Dose, DosingRate, WaterChange, Correction, Posted, Note]);
export type WaterEvent = Type.Static<typeof WaterEvent>;
export type DatedEvent = { at: string } & WaterEvent;

/**
 * What a list of events does to one parameter from its first reading on: a dosing pump that was set before still runs; what was
 * poured in before says nothing.
 */
export function inputsSince(parameter: string, events: DatedEvent[], first: number): TrendEvent[] {
	const inputs = inputsFor(parameter, events);
	const before = inputs.filter((e) => e.kind === 'dosing' && Date.parse(e.at) < first).at(-1);
	return [...(before ? [before] : []), ...inputs.filter((e) => Date.parse(e.at) >= first)];
}

/** How well a keeper knows new water whose level was measured, as a share of the level. */
const NEW_WATER_ERROR = 0.02;

/**
 * What a list of events does to one parameter. A water change of which that parameter is not known is left out: `usualNew`,
 * the level new water usually has, stands in where it is given.
 *
 * @example inputsFor('calcium', [{ kind: 'dose', at: '2026-05-01T00:00:00Z', parameter: 'calcium', change: 10 }]) // → [{ at: '2026-05-01T00:00:00Z', kind: 'dose', change: 10 }]
 */
export function inputsFor(parameter: string, events: DatedEvent[], usualNew?: number): TrendEvent[] {
	return events.flatMap((e): TrendEvent[] => {
		if (e.kind === 'dose' && e.parameter === parameter) return [{ at: e.at, kind: 'dose', change: e.change }];
		if (e.kind === 'dosing' && e.parameter === parameter)
			return [{ at: e.at, kind: 'dosing', perDay: e.perDay }];
		if (e.kind === 'water-change') {
			const newWater = e.newWater[parameter] ?? usualNew;
			return newWater === undefined
				? []
				: [
						{
							at: e.at,
							kind: 'water-change',
							fraction: e.fraction,
							newWater,
							standardUncertainty: NEW_WATER_ERROR * Math.abs(newWater)
						}
					];
		}
		return [];
	});
}
