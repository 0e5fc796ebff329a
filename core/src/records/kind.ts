import { z } from 'zod';

import { day, oneOf, pointer, POINTERS, uuid, type Pointer } from './fields.ts';

/** What a record belongs to: a tree, a stand (or the bush, where it names none), the bush. */
export type Owner = 'tree' | 'stand' | 'bush';

/** steward: everything; crew: records of work; viewer: looks. */
export const roleSchema = oneOf('steward', 'crew', 'viewer');
export type Role = z.infer<typeof roleSchema>;

/**
 * How records of a kind hold together:
 * `last` the last one says all; `list` each stands for itself; `season` the last one of a season;
 * `{ each }` the last one for each value of a field; `{ said }` the last one, and what it left open is told by the last one
 * that said it.
 */
export type Holding = 'last' | 'list' | 'season' | { readonly each: string } | { readonly said: readonly string[] };

/** Where the life of a tree puts a record. */
export const RECORD_GROUPS = [
  'registry',
  'species',
  'size',
  'condition',
  'count',
  'holes',
  'season',
  'thinning'
] as const;
export type RecordGroup = (typeof RECORD_GROUPS)[number];

/** A column of a table that goes out and comes in. */
export interface ExplainedColumn {
  readonly name: string;
  /** as the Frictionless Table Schema names types */
  readonly type: 'string' | 'number' | 'integer' | 'date' | 'year' | 'boolean';
  readonly explains: string;
  readonly example: string;
}

/** The table of a kind: one line a record, after the tree's tag. */
export interface RecordTable<R> {
  readonly title: string;
  readonly columns: readonly ExplainedColumn[];
  readonly cells: (record: R) => readonly string[];
}

/** The season that is planned and the day that is asked about, which lines are told for. */
export interface AsOf {
  readonly season: number;
  /** ISO date */
  readonly today: string;
}

type Envelope = {
  id: z.ZodType<string, string>;
  on: z.ZodType<string, string>;
  recordedAt: z.ZodISODateTime;
  correctsId: z.ZodDefault<z.ZodNullable<z.ZodType<string, string>>>;
  withdrawn: z.ZodDefault<z.ZodBoolean>;
};
type OwnerFields<O extends Owner> = O extends 'tree'
  ? { treeId: z.ZodType<string, string> }
  : O extends 'stand'
    ? { standId: z.ZodNullable<z.ZodType<string, string>> }
    : object;

export type RecordSchema<K extends string, O extends Owner, F extends z.ZodRawShape> = z.ZodObject<
  Envelope & OwnerFields<O> & { kind: z.ZodLiteral<K> } & F
>;

/** A record as it is kept: with who wrote it down, which the server sets and never takes from a client. */
export type Kept<T> = T & { readonly authorId?: string };

type Output<K extends string, O extends Owner, F extends z.ZodRawShape> = Kept<z.infer<RecordSchema<K, O, F>>>;

/** What holds of a kind's records. */
export type Held<R, H extends Holding> = H extends 'list'
  ? readonly R[]
  : H extends { each: string }
    ? ReadonlyMap<string, R>
    : H extends { said: readonly (infer S extends string)[] }
      ? (R & { readonly earlier: Partial<Record<S, string>> }) | null
      : R | null;

/** All that the program has to know of a kind of record. */
export interface RecordKindSpec<
  K extends string,
  T extends string,
  O extends Owner,
  F extends z.ZodRawShape,
  H extends Holding,
  L extends object
> {
  readonly kind: K;
  /** its table in the database, its file among the tables; the name of a list of them */
  readonly table: T;
  /** what one is called, for people */
  readonly label: string;
  readonly of: O;
  readonly group: RecordGroup;
  /** who may write it; whoever may write it may correct it */
  readonly writer: Exclude<Role, 'viewer'>;
  /** its own fields, beside those that all records have */
  readonly fields: F;
  /** what must hold between fields */
  readonly rules?: readonly {
    readonly holds: (record: Output<K, O, F>) => boolean;
    readonly path?: readonly string[];
    readonly message: string;
  }[];
  readonly holds: H;
  /** what it adds to the line of its tree */
  readonly line?: (held: Held<Output<K, O, F>, H>, at: Pick<AsOf, 'season'>) => L;
  /** lists need its records although it adds nothing of its own */
  readonly countsInLine?: true;
  readonly csv?: RecordTable<Output<K, O, F>>;
}

export interface RecordKind<
  K extends string = string,
  T extends string = string,
  O extends Owner = Owner,
  F extends z.ZodRawShape = z.ZodRawShape,
  H extends Holding = Holding,
  L extends object = object
> extends RecordKindSpec<K, T, O, F, H, L> {
  readonly schema: RecordSchema<K, O, F>;
  readonly pointers: readonly PointerPath[];
}

/** A record of a kind, as it is kept. */
export type RecordOf<D extends { readonly schema: z.ZodType }> = Kept<z.infer<D['schema']>>;

/**
 * Makes a kind of record from what is its own. Records are never changed: a correction is a new record that points at the old
 * one, a withdrawal a correction that says nothing instead. Ids are made by whoever makes the record, so that work without
 * a network has ids, and sending twice stores once.
 */
export function recordKind<
  const K extends string,
  const T extends string,
  const O extends Owner,
  F extends z.ZodRawShape,
  const H extends Holding,
  L extends object = object
>(spec: RecordKindSpec<K, T, O, F, H, L>): RecordKind<K, T, O, F, H, L> {
  const bare = z.object({
    id: uuid().register(POINTERS, { to: 'self' }),
    /** the day the work was done */
    on: day(),
    /** the moment it was written down, by the writer's clock; orders records of one day */
    recordedAt: z.iso.datetime(),
    correctsId: pointer('sameKind', true).nullable().default(null),
    withdrawn: z.boolean().default(false),
    ...(spec.of === 'tree' ? { treeId: pointer('tree') } : {}),
    ...(spec.of === 'stand' ? { standId: pointer('stand').nullable() } : {}),
    kind: z.literal(spec.kind),
    ...spec.fields
  }) as unknown as RecordSchema<K, O, F>;
  const schema = (spec.rules ?? []).reduce(
    (ruled, { holds, path, message }) =>
      ruled.refine((record) => holds(record as Output<K, O, F>), { path: path ? [...path] : [], message }),
    bare
  );
  return { ...spec, schema, pointers: pointersOf(schema) };
}

/** The way to a field that points at something; `*` stands for every entry of a list. */
export interface PointerPath extends Pointer {
  readonly path: readonly string[];
}

function pointersOf(schema: z.ZodType, path: readonly string[] = []): PointerPath[] {
  const marked = POINTERS.get(schema);
  if (marked) return [{ ...marked, path }];
  if (schema instanceof z.ZodNullable || schema instanceof z.ZodDefault)
    return pointersOf(schema.unwrap() as z.ZodType, path);
  if (schema instanceof z.ZodArray) return pointersOf(schema.element as z.ZodType, [...path, '*']);
  if (schema instanceof z.ZodObject)
    return Object.entries(schema.shape).flatMap(([key, inner]) => pointersOf(inner as z.ZodType, [...path, key]));
  return [];
}
