import { z } from 'zod';

import type { AsOf, Held, Holding, Kept, PointerPath } from './kind.ts';
import { KINDS } from './kinds/index.ts';
import { fill, shapeOf } from './shape.ts';

/* What follows from the kinds of records, all of them. */

type AnyKind = (typeof KINDS)[number];
type TreeKind = Extract<AnyKind, { readonly of: 'tree' }>;
type BushKind = Exclude<AnyKind, { readonly of: 'tree' }>;

/** A record that belongs to a tree. */
export type WorkRecord = Kept<z.infer<TreeKind['schema']>>;
/** A record of a stand, or of the bush as a whole. */
export type BushRecord = Kept<z.infer<BushKind['schema']>>;
export type AnyRecord = WorkRecord | BushRecord;
export type RecordKindName = WorkRecord['kind'];
export type BushRecordKind = BushRecord['kind'];
export type AnyRecordKind = AnyRecord['kind'];
/** A record as it is written: what has a default may be left out. */
export type RecordInput = z.input<TreeKind['schema']>;
export type BushRecordInput = z.input<BushKind['schema']>;

const isOfTree = (kind: AnyKind): kind is TreeKind => kind.of === 'tree';
const TREE_KINDS = KINDS.filter(isOfTree);
const BUSH_KINDS = KINDS.filter((kind): kind is BushKind => !isOfTree(kind));

/** Names of the kinds whose records belong to a tree. */
export const RECORD_KINDS: readonly RecordKindName[] = TREE_KINDS.map(({ kind }) => kind);
/** Names of the kinds whose records belong to a stand or to the bush as a whole. */
export const BUSH_RECORD_KINDS: readonly BushRecordKind[] = BUSH_KINDS.map(({ kind }) => kind);
/** Kinds without whose records the line of a tree cannot be told. */
export const LINE_KINDS: readonly RecordKindName[] = TREE_KINDS.filter(
  (kind) => 'line' in kind || 'countsInLine' in kind
).map(({ kind }) => kind);

/** The one schema of every record of a tree: forms, routes, import and storage all read it from here. */
export const recordSchema = z.discriminatedUnion('kind', schemasOf(TREE_KINDS));
/** The one schema of every record of a stand or of the bush. */
export const bushRecordSchema = z.discriminatedUnion('kind', schemasOf(BUSH_KINDS));

function schemasOf<D extends AnyKind>(kinds: readonly D[]) {
  return kinds.map(({ schema }) => schema) as unknown as [D['schema'], ...D['schema'][]];
}

const placeOfKind = new Map<string, number>(KINDS.map(({ kind }, place) => [kind, place]));
const BY_NAME = new Map<string, AnyKind>(KINDS.map((kind) => [kind.kind, kind]));

/** All there is to know of a kind. @throws Error where there is none of that name */
export function recordKindOf<K extends AnyRecordKind>(name: K): Extract<AnyKind, { readonly kind: K }> {
  const kind = BY_NAME.get(name);
  if (!kind) throw new Error(`There is no kind of record called ${name}.`);
  return kind as Extract<AnyKind, { readonly kind: K }>;
}

/** Is this the name of a kind whose records belong to no tree? */
export function isBushRecordKind(name: unknown): name is BushRecordKind {
  return BUSH_RECORD_KINDS.some((kind) => kind === name);
}

/** What a record points at, its own id and its tree aside: the ids by what they are ids of. */
export function pointersIn(record: AnyRecord): { readonly to: string; readonly id: string }[] {
  return recordKindOf(record.kind).pointers.flatMap(({ to, mayDangle, path }) =>
    mayDangle || to === 'self' || path[0] === 'treeId' ? [] : valuesAt(record, path).map((id) => ({ to, id }))
  );
}

function valuesAt(value: unknown, [key, ...rest]: readonly string[]): string[] {
  if (value === null || value === undefined) return [];
  if (key === undefined) return [value as string];
  if (key === '*') return (value as readonly unknown[]).flatMap((each) => valuesAt(each, rest));
  return valuesAt((value as Record<string, unknown>)[key], rest);
}

/** The same record under other ids: its own, and all that it points at. */
export function underIds<R extends AnyRecord>(record: R, renamed: (id: string) => string): R {
  return recordKindOf(record.kind).pointers.reduce<unknown>(
    (under, { path }: PointerPath) => replaceAt(under, path, renamed),
    record
  ) as R;
}

function replaceAt(value: unknown, [key, ...rest]: readonly string[], renamed: (id: string) => string): unknown {
  if (value === null || value === undefined) return value;
  if (key === undefined) return renamed(value as string);
  if (key === '*') return (value as readonly unknown[]).map((each) => replaceAt(each, rest, renamed));
  const object = value as Record<string, unknown>;
  return { ...object, [key]: replaceAt(object[key], rest, renamed) };
}

/** The order in which records tell a life, in whatever order they come: by day, by moment, by kind, by id. */
export function inOrder(a: AnyRecord, b: AnyRecord): number {
  return (
    byCode(a.on, b.on) ||
    byCode(a.recordedAt, b.recordedAt) ||
    placeOfKind.get(a.kind)! - placeOfKind.get(b.kind)! ||
    byCode(a.id, b.id)
  );
}

/** Days, moments and ids are in order as their letters are; a language's own order takes twenty times as long. */
const byCode = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/**
 * Records in the order in which they hold: corrected and withdrawn ones left out. What names a place or a line names it as it was
 * corrected.
 */
export function effectiveRecords<T extends AnyRecord>(records: readonly T[]): T[] {
  const became = new Map<string, string>();
  for (const { id, correctsId } of records) if (correctsId !== null) became.set(correctsId, id);
  const standing = records.filter((r) => !r.withdrawn && !became.has(r.id)).sort(inOrder);
  return became.size === 0 ? standing : standing.map((record) => underLastIds(record, became));
}

/** Kinds that name records as they are now, and how. */
const FOLLOWING = new Map(
  KINDS.flatMap(({ kind, pointers }) => {
    const following = pointers.filter(({ follows }) => follows);
    return following.length > 0 ? [[kind as string, following] as const] : [];
  })
);

function underLastIds<T extends AnyRecord>(record: T, became: ReadonlyMap<string, string>): T {
  const following = FOLLOWING.get(record.kind);
  if (!following || !following.some(({ path }) => valuesAt(record, path).some((id) => became.has(id)))) return record;
  const last = (id: string) => {
    let at = id;
    // A circle, which nobody can write here, ends somewhere.
    for (let steps = 0; steps < became.size && became.has(at); steps++) at = became.get(at)!;
    return at;
  };
  return following.reduce<unknown>((under, { path }) => replaceAt(under, path, last), record) as T;
}

/** Kinds of which many hold at once are named in the plural. */
type HeldName<D extends AnyKind> = D['holds'] extends 'list' | { readonly each: string } ? D['table'] : D['kind'];
/** What holds of a tree, kind by kind. */
export type HeldRecords = {
  readonly [D in TreeKind as HeldName<D>]: Held<Kept<z.infer<D['schema']>>, D['holds']>;
};

/**
 * What holds of a tree's records, in whatever order they come.
 * @param season the one that is planned
 */
export function heldOf(records: readonly WorkRecord[], season: number): HeldRecords {
  const byKind = new Map<string, WorkRecord[]>();
  for (const record of effectiveRecords(records)) {
    const list = byKind.get(record.kind);
    if (list) list.push(record);
    else byKind.set(record.kind, [record]);
  }
  const all = emptyHeld();
  for (const [i, { kind, holds }] of TREE_KINDS.entries())
    all[HELD_NAMES[i]!] = held(byKind.get(kind) ?? [], holds, season);
  return all as unknown as HeldRecords;
}

/** What of a tree is held is called so. */
export const HELD_NAMES: readonly string[] = TREE_KINDS.map(({ kind, table, holds }) =>
  holds === 'list' || (typeof holds === 'object' && 'each' in holds) ? table : kind
);
const emptyHeld = shapeOf(HELD_NAMES);

type Fields = Readonly<Record<string, unknown>>;

function held(records: readonly WorkRecord[], holds: Holding, season: number): unknown {
  const last = records.at(-1) ?? null;
  if (holds === 'last') return last;
  if (holds === 'list') return records;
  if (holds === 'season') return records.filter((r) => (r as Fields).season === season).at(-1) ?? null;
  if ('each' in holds) return new Map(records.map((r) => [(r as Fields)[holds.each], r]));
  if (!last) return null;
  const earlier: Record<string, string> = {};
  const told: Record<string, unknown> = {};
  for (const field of holds.said) {
    const said = records.filter((r) => (r as Fields)[field] !== null).at(-1);
    if (!said || said === last) continue;
    earlier[field] = said.on;
    told[field] = (said as Fields)[field];
  }
  return { ...last, ...told, earlier };
}

type Intersection<U> = (U extends unknown ? (each: U) => void : never) extends (all: infer I) => void ? I : never;
type LineOf<D> = D extends { readonly line?: (...args: never[]) => infer L } ? (object extends L ? never : L) : never;
/** What the kinds add to the line of a tree, each from its own records alone. */
export type KindLines = Intersection<LineOf<TreeKind>>;

/** The parts of a tree's line that follow from one kind of record each. */
export function kindLines(of: HeldRecords, at: Pick<AsOf, 'season'>): KindLines {
  const line = emptyLine();
  for (const part of partsOfLine(of, at)) fill(line, part);
  return line as unknown as KindLines;
}

function partsOfLine(of: HeldRecords, at: Pick<AsOf, 'season'>): object[] {
  return TREE_KINDS.flatMap((spec, i) =>
    'line' in spec && spec.line
      ? (spec.line as (held: unknown, at: Pick<AsOf, 'season'>) => object)(of[HELD_NAMES[i] as keyof HeldRecords], at)
      : []
  );
}

/** Names of what the kinds add to a line. */
export const LINE_KEYS: readonly string[] = partsOfLine(heldOf([], 2000), { season: 2000 }).flatMap((part) =>
  Object.keys(part)
);
const emptyLine = shapeOf(LINE_KEYS);
