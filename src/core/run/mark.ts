import Type from 'typebox';
import { Step } from '../instruments';

const exact = { additionalProperties: false } as const;
const seconds = Type.Number({ minimum: 0 });
/** Of which step: what its hands did, and what it is called. */
const ofStep = { act: Step.properties.do, label: Type.String() };
const skipped = { kind: Type.Literal('skipped') };
const short = { kind: Type.Literal('short'), seconds, of: seconds };
const late = { kind: Type.Literal('late'), seconds };
const early = { kind: Type.Literal('early'), seconds, of: seconds };

/** What was done otherwise than the method says. Seconds. */
export const Mark = Type.Union([
	Type.Object(skipped, exact),
	Type.Object(short, exact),
	Type.Object(late, exact),
	Type.Object(early, exact)
]);
export type Mark = Type.Static<typeof Mark>;

/** A mark and the step it belongs to. */
export const StepMark = Type.Union([
	Type.Object({ ...skipped, ...ofStep }, exact),
	Type.Object({ ...short, ...ofStep }, exact),
	Type.Object({ ...late, ...ofStep }, exact),
	Type.Object({ ...early, ...ofStep }, exact)
]);
export type StepMark = Type.Static<typeof StepMark>;
