import { LINE_KINDS, type WorkRecord } from '@baumkin/core/records';
import type { Transaction } from 'sequelize';

import { treesTouchedSince } from './changes.ts';
import { Bush } from './db/index.ts';
import { recordsByTree } from './records.ts';
import { snapshotTrees, standingSnapshot } from './snapshot.ts';

/** Trees whose records are held in memory at once. */
const AT_ONCE = 250;
/** Such parts that are read while one is worked on. */
const READ_AHEAD = 3;

/** Trees, each with those of its records that a line follows from. */
export type Lives = ReadonlyMap<string, readonly WorkRecord[]>;

/**
 * Goes through trees some hundred at a time. Where most of a bush is asked for they are taken from the snapshot that stands, as
 * far as nothing was written to them since: a fifth of what it takes to read a row a record.
 * @param most whether it is about most trees of the bush
 */
export async function* sweep(
  bushId: string,
  treeIds: readonly string[],
  { most, transaction }: { readonly most: boolean; readonly transaction: Transaction }
): AsyncGenerator<Lives> {
  const left = new Set(treeIds);
  if (most)
    for await (const lives of fromSnapshot(bushId, left, transaction)) {
      yield lives;
      for (const id of lives.keys()) left.delete(id);
    }
  const rest = [...left];
  yield* ahead(Math.ceil(rest.length / AT_ONCE), async (i) => {
    const ids = rest.slice(i * AT_ONCE, (i + 1) * AT_ONCE);
    const lives = await recordsByTree(bushId, { treeIds: ids, kinds: LINE_KINDS, transaction });
    return new Map(ids.map((id) => [id, lives.get(id) ?? []]));
  });
}

/** Those of the trees that the standing snapshot has, and that are as they were then. */
async function* fromSnapshot(
  bushId: string,
  asked: ReadonlySet<string>,
  transaction: Transaction
): AsyncGenerator<Lives> {
  const bush = await Bush.findByPk(bushId, { transaction, rejectOnEmpty: true });
  const standing = await standingSnapshot(bush, transaction);
  if (!standing) return;
  const touched = await treesTouchedSince(bushId, standing.number, transaction);
  const kinds = new Set<string>(LINE_KINDS);
  yield* ahead(standing.parts - 1, async (i) => {
    const { lives } = (await snapshotTrees(bushId, standing.number, i + 1, transaction)) ?? { lives: [] };
    return new Map(
      lives
        .filter(({ id }) => asked.has(id) && !touched.has(id))
        .map(({ id, records }) => [id, records.filter(({ kind }) => kinds.has(kind))])
    );
  });
}

/** Parts one after the other, of which some are read while one is worked on. */
async function* ahead<T>(parts: number, read: (part: number) => Promise<T>): AsyncGenerator<T> {
  const coming: Promise<T>[] = [];
  for (let part = 0; part < parts; part++) {
    while (part + coming.length < Math.min(parts, part + READ_AHEAD)) {
      const next = read(part + coming.length);
      // Where whoever asks stops or fails, nobody waits for it.
      next.catch(() => undefined);
      coming.push(next);
    }
    yield await coming.shift()!;
  }
}
