import Type from 'typebox';
import { Dilution, GivenReading } from '../instruments';

const exact = { additionalProperties: false } as const;
const name = Type.String({ minLength: 1, maxLength: 40 });
const id = Type.String({ format: 'uuid' });
const step = Type.Integer({ minimum: 0, maximum: 59 });

/** One test of a run: by which method, in which vial. */
export const RunTest = Type.Object(
	{
		id: name,
		methodVersionId: id,
		vial: Type.Integer({ minimum: 1, maximum: 99 }),
		/** What the kit's syringe and bottles are marked with. */
		letter: Type.Optional(Type.String({ maxLength: 4 })),
		thinned: Type.Optional(Dilution),
		/** Another water than the run's: a reference that a kit is checked with. */
		sourceId: Type.Optional(id),
		/** What it says is not shown before every test of the run is over: nobody reads towards a number they expect. */
		hidden: Type.Optional(Type.Boolean()),
		after: Type.Optional(Type.Array(name, { maxItems: 40 }))
	},
	exact
);
export type RunTest = Type.Static<typeof RunTest>;

/** What was read off the instrument; it becomes a reading when it is saved, under `readingId`. */
export const TakenReading = Type.Object(
	{
		readingId: id,
		sampleSize: Type.Optional(Type.String({ maxLength: 40 })),
		reading: GivenReading,
		takenAwayId: Type.Optional(id)
	},
	exact
);
export type TakenReading = Type.Static<typeof TakenReading>;

const event = <K extends string, T extends Record<string, object>>(kind: K, fields: T) =>
	Type.Object({ id, at: Type.String({ format: 'date-time' }), kind: Type.Literal(kind), ...fields }, exact);

const Begin = event('begin', {
	tests: Type.Array(RunTest, { minItems: 1, maxItems: 40 }),
	people: Type.Integer({ minimum: 1, maximum: 2 }),
	/** Tests that the keeper wanted to begin in this order. */
	order: Type.Array(name, { maxItems: 40 }),
	/** Whether results are saved one by one as they come, or together at the end. */
	save: Type.Unsafe<'each' | 'together'>({ type: 'string', enum: ['each', 'together'] })
});
/** Hands take up a step: a shake begins to count, or a keeper goes to another test. */
const Start = event('start', { test: name, step });
const End = event('end', { test: name, step });
/** Left out knowingly. */
const Skip = event('skip', { test: name, step });
/** A wait is cut short knowingly: the step may begin now. */
const Early = event('early', { test: name, step });
/** From the first step again: what was read stays, unless the vial was spoilt. */
const Again = event('again', { test: name, spoilt: Type.Boolean() });
const Add = event('add', { added: RunTest });
const Drop = event('drop', { test: name });
const Read = event('read', { test: name, step, taken: TakenReading });
/** Something said by mistake: as if it had not happened. */
const Undo = event('undo', { of: id });
const Finish = event('finish', {});

/** Something that happened at the bench. The list of them is the run: everything else follows from it. */
export const RunEvent = Type.Unsafe<
	| Type.Static<typeof Begin>
	| Type.Static<typeof Start>
	| Type.Static<typeof End>
	| Type.Static<typeof Skip>
	| Type.Static<typeof Early>
	| Type.Static<typeof Again>
	| Type.Static<typeof Add>
	| Type.Static<typeof Drop>
	| Type.Static<typeof Read>
	| Type.Static<typeof Undo>
	| Type.Static<typeof Finish>
>({
	type: 'object',
	required: ['kind'],
	discriminator: { propertyName: 'kind' },
	oneOf: [Begin, Start, End, Skip, Early, Again, Add, Drop, Read, Undo, Finish]
});
export type RunEvent = Type.Static<typeof RunEvent>;
export type BeginEvent = Type.Static<typeof Begin>;

/** What happened, before it is written down under an id and an instant. */
export type Happening<E = RunEvent> = E extends RunEvent ? Omit<E, 'id' | 'at'> : never;
