import Type from 'typebox';
import { ReferenceContent } from '../../core/quality';
import { TankSizes, WaterChange } from '../../core/tank';
import { NAME_PATTERN, oneOf } from '../../core/base';
import { SCHOOLS } from '../../core/targets';
import type { Phase } from '../../core/catalogue';
import { exact, id, orNull } from './parts';

/** Largest tank anyone keeps at home or on a round, L: a typing mistake lies above. */
const LARGEST_TANK_L = 1e6;

const name = Type.String({ minLength: 1, maxLength: 120, pattern: NAME_PATTERN });
const netVolumeL = Type.Number({ exclusiveMinimum: 0, maximum: LARGEST_TANK_L });
const timeZone = Type.String({ minLength: 1, maxLength: 60 });
const school = Type.Unsafe<string>({ type: 'string', enum: SCHOOLS.map((x) => x.id) });
const phase = Type.Unsafe<Phase>({ type: 'string', enum: ['new', 'cycling', 'young', 'settled'] });
/** Brackish to the saltiest sea, PSU. */
const salinityPsu = Type.Number({ minimum: 5, maximum: 42 });
const limit = Type.Number({ minimum: -5, maximum: 1e6 });

/** What it takes to begin: a tank by name, how much water, where it stands. */
export const NewSystem = Type.Object(
	{
		id: id,
		name,
		netVolumeL,
		timeZone,
		/** Bands come from here; alkalinity's own goes before. Without one only alkalinity has a band. */
		school: Type.Optional(school),
		phase: Type.Optional(phase),
		alkalinity: Type.Object({ lower: Type.Number({ minimum: 0 }), upper: Type.Number({ minimum: 0 }) }, exact)
	},
	exact
);
export type NewSystem = Type.Static<typeof NewSystem>;

/** What may change about a tank; what is left out stays. */
export const ChangeSystem = Type.Object(
	{
		name: Type.Optional(name),
		netVolumeL: Type.Optional(netVolumeL),
		/** What the net volume was worked out from; null: it was measured. */
		sizes: Type.Optional(Type.Union([TankSizes, Type.Null()])),
		/** Standard uncertainty of the net volume, L; null: not measured. */
		netVolumeError: Type.Optional(
			Type.Union([Type.Number({ minimum: 0, maximum: LARGEST_TANK_L }), Type.Null()])
		),
		waterChange: Type.Optional(Type.Union([WaterChange, Type.Null()])),
		timeZone: Type.Optional(timeZone),
		phase: Type.Optional(phase),
		school: Type.Optional(
			Type.Unsafe<string>({ type: 'string', enum: [...SCHOOLS.map((x) => x.id), 'own'] })
		),
		salinityPsu: Type.Optional(salinityPsu),
		/** By parameter, in its own unit; null takes a band away. */
		bands: Type.Optional(
			Type.Record(
				Type.String({ minLength: 1, maxLength: 40 }),
				Type.Union([Type.Object({ lower: limit, upper: limit }, exact), Type.Null()])
			)
		)
	},
	exact
);
export type ChangeSystem = Type.Static<typeof ChangeSystem>;

export const SOURCE_KINDS = ['tank', 'new mix', 'tap', 'purified', 'reference', 'other'] as const;
export type SourceKind = (typeof SOURCE_KINDS)[number];

/** Water that is not the tank's own. */
export const SaveSource = Type.Object(
	{
		systemId: id,
		kind: Type.Unsafe<Exclude<SourceKind, 'tank'>>({ type: 'string', enum: SOURCE_KINDS.slice(1) }),
		name,
		/** What a reference is known to hold, in own units; left out it stays, null takes it away. */
		content: Type.Optional(Type.Union([ReferenceContent, Type.Null()]))
	},
	exact
);
export type SaveSource = Type.Static<typeof SaveSource>;

/** What people may do in a tank: everything; write; look. */
export const ROLES = ['owner', 'keeper', 'viewer'] as const;
export type Role = (typeof ROLES)[number];

/** A tank, and what the asker may do in it. */
export const Tank = Type.Object(
	{
		id,
		name,
		timeZone,
		netVolumeL,
		phase,
		school: Type.String(),
		salinityPsu,
		sizes: orNull(TankSizes),
		netVolumeError: orNull(Type.Number()),
		waterChange: orNull(WaterChange),
		role: oneOf(ROLES)
	},
	exact
);
export type Tank = Type.Static<typeof Tank>;

/** A water of a tank, the tank's own or another. */
export const Source = Type.Object(
	{ id, kind: oneOf(SOURCE_KINDS), name: Type.String(), content: orNull(ReferenceContent) },
	exact
);
export type Source = Type.Static<typeof Source>;

/** With its bands, in each parameter's own unit, and its waters. */
export const TankInFull = Type.Object(
	{
		...Tank.properties,
		bands: Type.Record(Type.String(), Type.Object({ lower: Type.Number(), upper: Type.Number() }, exact)),
		sources: Type.Array(Source)
	},
	exact
);
export type TankInFull = Type.Static<typeof TankInFull>;
