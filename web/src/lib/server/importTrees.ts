import { randomUUID } from 'node:crypto';
import {
  namedIn,
  planImport,
  readStatements,
  type ImportOptions,
  type ImportPlan,
  type KnownTree,
  type ReadOptions
} from '@baumkin/core/exchange';
import { seasonOf } from '@baumkin/core/records';

import { storeLines } from './treeRegistry.ts';
import { standsOf, type BushAccess } from './bushes.ts';
import { writeToBush, type BushWrite } from './bushWrite.ts';
import { StandRow, TreeRecord } from './db/index.ts';
import { ImportIds, noteImport } from './imports.ts';
import { expectedOf, keptLines } from './lines.ts';
import { recordsByTree, storeMany, type Writing } from './recordRows.ts';
import { treesOf } from './trees.ts';

/** Trees of the file that are looked up at once. */
const AT_ONCE = 1000;

export interface ImportWishes extends ReadOptions, Pick<ImportOptions, 'newTrees'> {
  readonly text: string;
  /** of the file, as people call it */
  readonly name?: string;
}

export type ImportResult = Pick<ImportPlan, 'counts' | 'bad' | 'question' | 'mixed'>;

/**
 * Reads a file about trees and stores what is new in it, all of it or nothing. What the bush has already is recognised
 * and left as it is.
 * @throws UnreadableFile
 */
export async function importFile(
  bush: BushAccess,
  authorId: string,
  { text, newTrees, name = '', ...options }: ImportWishes,
  now = new Date()
): Promise<ImportResult> {
  const file = readStatements(text, options);
  const named = [...namedIn(file, options.told)];
  const { sizes } = expectedOf(await keptLines(bush.id, seasonOf(options.today)), options.today);
  const ids = new ImportIds(randomUUID());
  return writeToBush(bush.id, async (write) => {
    const { transaction } = write;
    const { originLat, originLon } = write.bush;
    const here = originLat === null || originLon === null ? null : { lat: originLat, lon: originLon };
    // On the connection of the write: imports that wait for each other hold no more than one each.
    const known: KnownTree[] = [];
    for (let i = 0; i < named.length; i += AT_ONCE) {
      const which = { tagKey: named.slice(i, i + AT_ONCE) };
      const trees = await treesOf(bush.id, { which, transaction });
      const records = await recordsByTree(bush.id, { treeIds: trees.map(({ id }) => id), transaction });
      known.push(...trees.map((tree) => ({ tree, records: records.get(tree.id) ?? [] })));
    }
    const stands = await standsOf(bush.id, transaction);
    const tags = await TreeRecord.findAll({ attributes: ['tag'], where: { bushId: bush.id }, raw: true, transaction });
    const plan = planImport(file, known, {
      today: options.today,
      now: now.toISOString(),
      settings: bush.settings,
      origin: here,
      stands,
      sizes,
      tags: tags.flatMap(({ tag }) => tag ?? []),
      told: options.told,
      newTrees,
      makeId: ids.next
    });
    const by = { bushId: bush.id, authorId, now };
    const origin = here === null ? plan.origin : null;
    await storePlan({ ...plan, origin }, by, write);
    if (plan.records.length > 0 || plan.stands.length > 0) {
      const here = new Set(stands.map(({ id }) => id));
      const newStands = plan.stands.flatMap(({ id }) => (here.has(id) ? [] : id));
      const more = { ...(origin ? { origin } : {}), stands: plan.stands, newStands };
      await noteImport(ids, name, { bushId: bush.id, authorId, at: now, more }, { counts: plan.counts, transaction });
    }
    const { counts, bad, question, mixed } = plan;
    return { counts, bad, question, mixed };
  });
}

async function storePlan(
  { origin, stands, trees, records }: Pick<ImportPlan, 'origin' | 'stands' | 'trees' | 'records'>,
  by: Writing,
  write: BushWrite
): Promise<void> {
  const { bushId } = by;
  const { bush, transaction } = write;
  // Origin and stands belong to the bush as a whole: they count up its version and go into its log, like every change.
  if (origin || stands.length > 0) {
    await bush.update(
      { version: bush.version + 1, ...(origin ? { originLat: origin.lat, originLon: origin.lon } : {}) },
      { transaction }
    );
    write.touches('bush');
    for (const { id } of stands) write.shape('stand', id);
  }
  for (const stand of stands) await StandRow.upsert({ ...stand, bushId }, { transaction });
  if (trees.length > 0) {
    const last = await TreeRecord.max<number | null, TreeRecord>('walkOrder', { where: { bushId }, transaction });
    const walk = trees.map((tree) => tree.id);
    await storeLines(walk, trees, { bushId, from: Math.floor(last ?? -1) + 1 }, transaction);
    write.trees(walk);
  }
  await storeMany(records, by, transaction);
  write.records(records);
  // Trees that were here already and moved: their line follows.
  const here = new Set(trees.map((tree) => tree.id));
  for (const record of records)
    if (record.kind === 'place' && !here.has(record.treeId)) {
      write.trees([record.treeId]);
      await TreeRecord.update(
        {
          eastM: record.eastM,
          northM: record.northM,
          positionQuality: record.quality,
          positionAccuracyM: record.accuracyM
        },
        { where: { id: record.treeId }, transaction }
      );
    }
}
