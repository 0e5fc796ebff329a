import type { TreeRow } from '@baumkin/core/records';
import { group } from 'd3-array';

import { store } from './store.ts';

/*
 * The lines of a bush's trees on this device, a few hundred to a pack: 20,000 rows of a table are slow to read, and one value
 * of them all is slow to write for one tree. A pack is text: the browser copies objects at half the speed at which it reads
 * JSON.
 */

/** So many packs that one of 20,000 trees is written in a few milliseconds. */
const PACKS = 64;

/** Which pack a tree's line is in: the same on every device, without a list of which is where. */
const packOf = (treeId: string) => Number.parseInt(treeId.slice(0, 2), 16) % PACKS;

const inWalkingOrder = (a: TreeRow, b: TreeRow) => a.walkOrder - b.walkOrder || (a.id < b.id ? -1 : 1);

const pack = (rows: readonly TreeRow[]) => JSON.stringify(rows);
const unpack = (text: string) => JSON.parse(text) as TreeRow[];

/** All lines of a bush, in walking order; none where none are here. */
export const readLines = async (bushId: string): Promise<TreeRow[]> => unpackAll(await readPacks(bushId));

/** All packs of a bush; none where none are here. */
export const readPacks = async (bushId: string): Promise<string[]> =>
  (await store.packs.where('bushId').equals(bushId).toArray()).map(({ text }) => text);

/** The lines of some trees, as far as they are here. */
export async function linesOf(bushId: string, treeIds: readonly string[]): Promise<TreeRow[]> {
  const wanted = new Set(treeIds);
  const touched = [...new Set(treeIds.map(packOf))];
  const packs = await store.packs.bulkGet(touched.map((i) => [bushId, i] as [string, number]));
  return packs.flatMap((kept) => (kept ? unpack(kept.text).filter(({ id }) => wanted.has(id)) : []));
}

/** The lines of all packs of a bush, in walking order. */
export const unpackAll = (texts: readonly string[]): TreeRow[] => texts.flatMap(unpack).sort(inWalkingOrder);

/** All lines of a bush as packs, the empty ones too: that no tree is in a bush is known as well. */
export function packAll(rows: readonly TreeRow[]): string[] {
  const byPack = group(rows, ({ id }) => packOf(id));
  return Array.from({ length: PACKS }, (_, i) => pack(byPack.get(i) ?? []));
}

/** Are the lines of a bush here? */
export const hasLines = async (bushId: string): Promise<boolean> =>
  (await store.packs.where('bushId').equals(bushId).count()) > 0;

/** Puts other packs in the place of all. */
export async function replacePacks(bushId: string, texts: readonly string[]): Promise<void> {
  await store.packs.bulkPut(texts.map((text, i) => ({ bushId, pack: i, text })));
}

/** What became of some lines. */
export interface LineNews {
  readonly rows: readonly TreeRow[];
  /** trees that are not in the registry any more */
  readonly gone: readonly string[];
  /** another order of the walk */
  readonly walk: readonly { readonly id: string; readonly walkOrder: number }[] | null;
}

/** Writes what became of some lines. */
export async function keepLines(bushId: string, news: LineNews): Promise<void> {
  const { rows, gone, walk } = news;
  if (walk) return replacePacks(bushId, packAll(withNews(await readLines(bushId), news)));
  const touched = [...new Set([...rows.map(({ id }) => id), ...gone].map(packOf))];
  const kept = await store.packs.bulkGet(touched.map((i) => [bushId, i] as [string, number]));
  // Where there are no lines yet, they come all together.
  await store.packs.bulkPut(
    kept.flatMap((known) => {
      if (!known) return [];
      const of = { rows: rows.filter(({ id }) => packOf(id) === known.pack), gone, walk: null };
      return { ...known, text: pack(withNews(unpack(known.text), of)) };
    })
  );
}

/** Lines after what became of some of them, in walking order. */
export function withNews(lines: readonly TreeRow[], { rows, gone, walk }: LineNews): readonly TreeRow[] {
  if (rows.length === 0 && gone.length === 0 && !walk) return lines;
  const byId = new Map(lines.map((row) => [row.id, row]));
  for (const row of rows) byId.set(row.id, row);
  for (const id of gone) byId.delete(id);
  for (const { id, walkOrder } of walk ?? []) {
    const row = byId.get(id);
    if (row) byId.set(id, { ...row, walkOrder });
  }
  return [...byId.values()].sort(inWalkingOrder);
}
