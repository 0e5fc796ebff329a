import { LINE_KINDS, type Tree } from '@baumkin/core/records';
import type { Transaction } from 'sequelize';

import { treesTouchedSince } from './changes.ts';
import { Bush } from './db/index.ts';
import { derivedLine, type DerivedLine } from './derivedLine.ts';
import { LineThreads } from './lineThreads.ts';
import { log } from './log.ts';
import { recordsByTree } from './recordRows.ts';
import { snapshotPart, standingSnapshot } from './snapshot.ts';

/** Trees whose records are held in memory at once. */
const AT_ONCE = 250;
/** Such parts that are read while others are worked on. */
const READ_AHEAD = 4;

/**
 * Derives the lines of trees from their records. Where most of a bush is wanted, threads take them from the snapshot that stands, as
 * far as nothing was written to their trees since: a tenth of what it takes to read a row a record.
 * @param trees as the registry has them
 * @param most whether they are most trees of the bush
 * @yields lines, some hundred at a time, in no order
 */
export async function* deriveLines(
  bushId: string,
  trees: readonly Tree[],
  { most, season, transaction }: { readonly most: boolean; readonly season: number; readonly transaction: Transaction }
): AsyncGenerator<readonly DerivedLine[]> {
  const left = new Map(trees.map((tree) => [tree.id, tree]));
  if (most && trees.length > AT_ONCE)
    try {
      for await (const lines of fromSnapshot(bushId, trees, { season, transaction })) {
        yield lines;
        for (const { id } of lines) left.delete(id);
      }
    } catch (error) {
      // The records are all there: it takes longer.
      log.error({ err: error, bushId }, 'Lines could not be derived from a snapshot');
    }
  const rest = [...left.values()];
  yield* ahead(Math.ceil(rest.length / AT_ONCE), async (i) => {
    const some = rest.slice(i * AT_ONCE, (i + 1) * AT_ONCE);
    const treeIds = some.map(({ id }) => id);
    const records = await recordsByTree(bushId, { treeIds, kinds: LINE_KINDS, transaction });
    return some.map((tree) => derivedLine(tree, records.get(tree.id) ?? [], season));
  });
}

/** Lines of those of the trees that the standing snapshot has, and that are as they were then. */
async function* fromSnapshot(
  bushId: string,
  trees: readonly Tree[],
  { season, transaction }: { readonly season: number; readonly transaction: Transaction }
): AsyncGenerator<readonly DerivedLine[]> {
  const bush = await Bush.findByPk(bushId, { transaction, rejectOnEmpty: true });
  const standing = await standingSnapshot(bush, transaction);
  if (!standing) return;
  const touched = await treesTouchedSince(bushId, standing.number, transaction);
  const threads = new LineThreads({ trees: trees.filter(({ id }) => !touched.has(id)), season });
  try {
    yield* ahead(standing.parts - 1, async (i) => {
      const packed = await snapshotPart(bushId, standing.number, i + 1, transaction);
      return packed ? threads.derive(packed) : [];
    });
  } finally {
    await threads.end();
  }
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
