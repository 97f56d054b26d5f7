import Type from 'typebox';
import { SCHOOLS, type Phase } from '../../core/targets';

const exact = { additionalProperties: false } as const;

/** Largest tank anyone keeps at home or on a round, L: a typing mistake lies above. */
const LARGEST_TANK_L = 1e6;

/** What it takes to begin: a tank by name, how much water, where its evenings are. */
export const NewSystem = Type.Object(
	{
		id: Type.String({ format: 'uuid' }),
		name: Type.String({ minLength: 1, maxLength: 120 }),
		netVolumeL: Type.Number({ exclusiveMinimum: 0, maximum: LARGEST_TANK_L }),
		timeZone: Type.String({ minLength: 1, maxLength: 60 }),
		/** Bands come from here; alkalinity's own goes before. Without one only alkalinity has a band. */
		school: Type.Optional(Type.Unsafe<string>({ type: 'string', enum: SCHOOLS.map((x) => x.id) })),
		phase: Type.Optional(
			Type.Unsafe<Phase>({ type: 'string', enum: ['new', 'cycling', 'young', 'settled'] })
		),
		alkalinity: Type.Object({ lower: Type.Number({ minimum: 0 }), upper: Type.Number({ minimum: 0 }) }, exact)
	},
	exact
);
export type NewSystem = Type.Static<typeof NewSystem>;
