import Type from 'typebox';
import { UNITS } from '../../core/quantities';
import { PARAMETERS } from '../../core/catalogue';
import { ASKED, type SheetLayout } from '../../core/formats';
import type { Separator } from '../sheets/parse';
import { oneOf } from '../../core/base';
import { exact, id, moment } from './parts';

const parameter = oneOf(PARAMETERS.map((p) => p.id));
const unit = oneOf([...new Set(Object.values(UNITS).flatMap((list) => list.map((u) => u.name)))]);

const Meaning = Type.Union([
	Type.Object(
		{ kind: oneOf(['skip', 'date', 'time', 'parameter', 'sort', 'unit', 'water', 'note', 'bound'] as const) },
		exact
	),
	Type.Object(
		{
			kind: Type.Literal('value'),
			parameter: Type.Union([parameter, Type.Null()]),
			unit: Type.Union([unit, Type.Literal(ASKED), Type.Null()])
		},
		exact
	)
]);

/** How the keeper wants a file understood. */
export const TakeIn = Type.Object(
	{
		/** Made by the client: sending it again changes nothing. */
		id: id,
		name: Type.String({ minLength: 1, maxLength: 200 }),
		separator: Type.Unsafe<Separator>({ type: 'string', enum: [',', ';', '\t', '|'] }),
		layout: Type.Unsafe<SheetLayout>(
			Type.Object(
				{
					headerRow: Type.Union([Type.Integer({ minimum: 0, maximum: 100 }), Type.Null()]),
					decimal: oneOf(['.', ','] as const),
					order: oneOf(['ymd', 'dmy', 'mdy'] as const),
					hour: Type.Integer({ minimum: 0, maximum: 23 }),
					columns: Type.Array(Meaning, { maxItems: 500 }),
					leaveOdd: Type.Optional(Type.Boolean()),
					units: Type.Record(Type.String({ pattern: `^(${PARAMETERS.map((p) => p.id).join('|')})$` }), unit)
				},
				exact
			)
		)
	},
	exact
);
export type TakeIn = Type.Static<typeof TakeIn>;

const count = Type.Integer({ minimum: 0 });
/** How far an import is; one a line while it runs. */
export const ImportProgress = Type.Union([
	Type.Object({ kind: Type.Literal('progress'), done: count, of: count }, exact),
	Type.Object(
		{ kind: Type.Literal('done'), id, added: count, known: count, refused: count, notes: count },
		exact
	),
	Type.Object({ kind: Type.Literal('failed'), message: Type.String() }, exact)
]);
export type ImportProgress = Type.Static<typeof ImportProgress>;

/** A file that was taken in. */
export const TakenFile = Type.Object(
	{
		id,
		at: moment,
		name: Type.String(),
		by: Type.String(),
		added: count,
		known: count,
		refused: count,
		takenBack: Type.Boolean()
	},
	exact
);
export type TakenFile = Type.Static<typeof TakenFile>;
