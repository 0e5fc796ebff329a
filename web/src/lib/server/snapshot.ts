import type { WorkRecord } from '@baumkin/core/records';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { col, ForeignKeyConstraintError, Op, UniqueConstraintError, type Transaction } from 'sequelize';

import { asWhole, registered, type BushAsWhole, type Registered } from './changes.ts';
import type { AnswerOf } from './contract.ts';
import { Bush, Snapshot, SnapshotPart } from './db/index.ts';
import { reading } from './db/reading.ts';
import { log } from './log.ts';
import { recordsByTree } from './recordRows.ts';
import { walkOf } from './treeRegistry.ts';

const gzipped = promisify(gzip);
const gunzipped = promisify(gunzip);

/** How far the making of a snapshot is. */
export type SnapshotState = AnswerOf<'Snapshot'>;

/** The first part of a snapshot. */
export interface SnapshotHead {
  readonly whole: BushAsWhole;
}

/** Any further part: trees in walking order, each with everything recorded of it. */
export interface SnapshotTrees {
  readonly lives: readonly (Registered & { readonly records: readonly WorkRecord[] })[];
}

const TREES_A_PART = 250;
/** A snapshot that the bush has gone further from is made anew: the feed would take longer than the snapshot. */
const MOST_BEHIND = 500;
/** A snapshot that has not grown for so long is one whose maker is no more. */
export const GIVEN_UP_MS = 60_000;
/** Who takes an older snapshot along while a newer is made is given time to end. */
const KEPT_MS = 3_600_000;

/** One at a time on each server: the making of one holds a connection while it asks for others. */
let lastMade: Promise<void> = Promise.resolve();

/**
 * The snapshot that a device begins with: the last one where it is near enough, else one that is being made from now on.
 * Several servers make it once.
 * @param behind how far the bush may have gone on from it
 * @param background awaits the making, where somebody wants to
 */
export async function snapshotOf(
  bushId: string,
  {
    behind = MOST_BEHIND,
    background = () => undefined
  }: { readonly behind?: number; readonly background?: (making: Promise<void>) => void } = {}
): Promise<SnapshotState> {
  for (;;) {
    const { changes, feedId } = await Bush.findByPk(bushId, { rejectOnEmpty: true });
    const last = await Snapshot.findOne({ where: { bushId, feedId }, order: [['number', 'DESC']] });
    if (last && last.ready < last.parts && Date.now() - last.begunAt.getTime() > GIVEN_UP_MS) {
      await remove(bushId, [last.number]);
      continue;
    }
    if (last && (changes - last.number <= behind || (last.ready < last.parts && behind > 0))) return stateOf(last);
    const begun = await new Promise<Snapshot | null>((resolve, reject) => {
      const making = lastMade.then(() => make(bushId, resolve));
      lastMade = making.catch(() => undefined);
      // Once it has begun, nobody waits for its end: what fails is given up, and made anew by whoever asks next.
      making.catch((error: unknown) => {
        // A bush that was thrown away meanwhile needs none.
        if (!(error instanceof ForeignKeyConstraintError)) log.error({ err: error, bushId }, 'A snapshot was not made');
        reject(error instanceof Error ? error : new Error(String(error)));
      });
      background(making);
    });
    if (begun) return stateOf(begun);
  }
}

/** A part, compressed; null where there is none, or none yet. */
export async function snapshotPart(
  bushId: string,
  number: number,
  part: number,
  transaction?: Transaction
): Promise<Buffer | null> {
  return (await SnapshotPart.findOne({ where: { bushId, number, part }, transaction }))?.content ?? null;
}

/** The first part, and any further one; null where there is none, or none yet. */
export const snapshotHead = (bushId: string, number: number): Promise<SnapshotHead | null> =>
  unpacked(snapshotPart(bushId, number, 0));
export const snapshotTrees = (bushId: string, number: number, part: number): Promise<SnapshotTrees | null> =>
  unpacked(snapshotPart(bushId, number, part));

async function unpacked<Part>(coming: Promise<Buffer | null>): Promise<Part | null> {
  const content = await coming;
  return content && (JSON.parse((await gunzipped(content)).toString('utf8')) as Part);
}

/** The newest snapshot that is complete and near enough; null where there is none. */
export async function standingSnapshot(
  { id: bushId, feedId, changes }: Bush,
  transaction: Transaction
): Promise<{ readonly number: number; readonly parts: number } | null> {
  const last = await Snapshot.findOne({
    where: { bushId, feedId, ready: { [Op.eq]: col('parts') } },
    order: [['number', 'DESC']],
    transaction
  });
  return last && changes - last.number <= MOST_BEHIND ? last : null;
}

const stateOf = ({ feedId, number, parts, ready, trees }: Snapshot): SnapshotState => ({
  feed: feedId,
  number,
  parts,
  ready,
  trees
});

/**
 * Makes a snapshot, all of it from one moment.
 * @param begun is told when it has a number, and null where another server was faster
 */
async function make(bushId: string, begun: (snapshot: Snapshot | null) => void): Promise<void> {
  await reading(async (transaction) => {
    const row = await Bush.findByPk(bushId, { transaction, rejectOnEmpty: true });
    const walk = (await walkOf(bushId, transaction)).map(({ id }) => id);
    const { changes: number, feedId } = row;
    const parts = 1 + Math.ceil(walk.length / TREES_A_PART);
    let snapshot: Snapshot;
    try {
      snapshot = await Snapshot.create({
        bushId,
        number,
        feedId,
        parts,
        ready: 0,
        trees: walk.length,
        begunAt: new Date()
      });
    } catch (error) {
      if (!(error instanceof UniqueConstraintError)) throw error;
      begun(null);
      return;
    }
    begun(snapshot);
    const keep = async (part: number, content: SnapshotHead | SnapshotTrees) => {
      const packed = await gzipped(JSON.stringify(content));
      await SnapshotPart.create({ bushId, number, part, content: packed });
      await snapshot.update({ ready: part + 1, begunAt: new Date() });
    };
    await keep(0, { whole: await asWhole(row, transaction) });
    for (let part = 1; part < parts; part++) {
      const treeIds = walk.slice((part - 1) * TREES_A_PART, part * TREES_A_PART);
      const records = await recordsByTree(bushId, { treeIds, transaction });
      const trees = await registered(bushId, treeIds, transaction);
      await keep(part, { lives: trees.map((tree) => ({ ...tree, records: records.get(tree.id) ?? [] })) });
    }
  });
  const older = await Snapshot.findAll({ where: { bushId }, order: [['number', 'DESC']], offset: 1, limit: 100 });
  const gone = older.filter(({ begunAt }) => Date.now() - begunAt.getTime() > KEPT_MS);
  await remove(
    bushId,
    gone.map(({ number }) => number)
  );
}

async function remove(bushId: string, numbers: readonly number[]): Promise<void> {
  const where = { bushId, number: { [Op.in]: [...numbers] } };
  await SnapshotPart.destroy({ where });
  await Snapshot.destroy({ where });
}
