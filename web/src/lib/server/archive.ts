import {
  ArchiveReader,
  headUnderIds,
  type ArchivedRecord,
  type ArchiveHead,
  type ReadArchive
} from '@baumkin/core/exchange';
import { BUSH_RECORD_KINDS, underIds, type AnyRecord } from '@baumkin/core/records';
import { group } from 'd3-array';
import { UniqueConstraintError, type Model, type ModelStatic, type Transaction } from 'sequelize';

import { noted } from './audit.ts';
import { readPieces, type ArchiveSource } from './archiveStream.ts';
import { baseMapOf, keepBaseMap } from './baseMap.ts';
import type { BushAccess } from './bushes.ts';
import { writeToBush } from './bushWrite.ts';
import { FeatureRow, FORMER, Membership, StandRow, tables, TreeRecord, User } from './db/index.ts';
import { storeMany } from './recordRows.ts';
import { Refused } from './refusals.ts';
import { GIVEN_UP_MS, snapshotHead, snapshotOf, snapshotTrees } from './snapshot.ts';
import { storeLines } from './treeRegistry.ts';
import { uuidFrom } from './uuidFrom.ts';

/** How long is waited before the next part of a snapshot is asked for. */
const PART_WAIT_MS = 100;
/** Records that are stored at once. */
const AT_ONCE = 4000;

/**
 * Everything that was ever written down in a bush, as the text of an archive, piece by piece: all of one moment, and no more than
 * some hundred trees of it in memory.
 */
export async function* archiveText(bush: BushAccess, now = new Date()): AsyncGenerator<string> {
  const { number, parts } = await snapshotOf(bush.id, { behind: 0 });
  const { whole } = await waitedFor(() => snapshotHead(bush.id, number));
  const picture = await baseMapOf(bush.id);
  const head = {
    format: 'baumkin-bush',
    version: 2,
    writtenAt: now.toISOString(),
    bush: { name: whole.name, settings: whole.settings, origin: whole.origin },
    people: whole.people.map(({ id, name }) => ({ id, name })),
    stands: whole.stands,
    features: whole.features,
    baseMap: picture && whole.baseMap && { fit: whole.baseMap, pictureBase64: picture.picture.toString('base64') },
    bushRecords: whole.bushRecords.toSorted(asWritten)
  };
  yield `${JSON.stringify(head).slice(0, -1)},"records":[`;
  const walk: string[] = [];
  let separator = '';
  for (let part = 1; part < parts; part++) {
    const { lives } = await waitedFor(() => snapshotTrees(bush.id, number, part));
    const records = lives.flatMap((life) => life.records).sort(asWritten);
    walk.push(...lives.map(({ id }) => id));
    if (records.length === 0) continue;
    yield separator + JSON.stringify(records).slice(1, -1);
    separator = ',';
  }
  yield `],"walk":${JSON.stringify(walk)}}`;
}

const asWritten = (a: AnyRecord, b: AnyRecord) => a.recordedAt.localeCompare(b.recordedAt) || a.id.localeCompare(b.id);

/** A part of a snapshot that may still be in the making. */
async function waitedFor<Part>(ask: () => Promise<Part | null>): Promise<Part> {
  for (let waited = 0; waited < GIVEN_UP_MS; waited += PART_WAIT_MS) {
    const part = await ask();
    if (part) return part;
    await new Promise((resolve) => setTimeout(resolve, PART_WAIT_MS));
  }
  throw new Error('A part of a snapshot was not made.');
}

/**
 * Reads an archive back into an empty bush, all of it or nothing. Where this server knows the archive's ids already, as
 * when a bush is copied, everything comes in under other ids. It is read twice: once to see whether it is sound.
 * @throws UnreadableFile, Refused 'notEmpty', Refused 'noPicture'
 */
export async function restoreArchive(
  { bush, memberId, now = new Date(), own = false }: Restoring,
  source: ArchiveSource
): Promise<{ trees: number; records: number; name: string }> {
  // Nobody waits for a long reading to hear that it was for nothing.
  await mustBeEmpty(bush.id);
  const reader = new ArchiveReader();
  await readPieces(source, reader);
  const archive = reader.end();
  const restoring = { bush, memberId, now, own };
  try {
    return await restore(restoring, archive, source, (id) => id);
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error;
    // Of two records of one moment the one with the later id holds: the new ids stand in the order of the old.
    const place = new Map([...archive.ids].sort().map((id, i) => [id, i]));
    const renamed = (id: string) => uuidFrom(`${bush.id} ${id}`, place.get(id));
    return restore(restoring, archive, source, renamed);
  }
}

/** Where to an archive is read back, and by whom. */
export interface Restoring {
  readonly bush: BushAccess;
  readonly memberId: string;
  readonly now?: Date;
  /** it was written by this server a moment ago, and nobody had it in her hands */
  readonly own?: boolean;
}

async function restore(
  restoring: Required<Restoring>,
  { head, trees, writers }: ReadArchive,
  source: ArchiveSource,
  renamed: (id: string) => string
): Promise<{ trees: number; records: number; name: string }> {
  const { bush, memberId, now } = restoring;
  const { name, settings, origin } = head.bush;
  const { stands, features, walk } = headUnderIds(head, renamed);
  return writeToBush(bush.id, async (write) => {
    const { transaction, bush: row } = write;
    write.beginsAnew();
    await mustBeEmpty(bush.id, transaction);
    const authors = await authorsIn(restoring, head, writers, transaction);
    await row.update(
      // Who reads an archive back has not opened the bush to visitors.
      {
        settings: { ...settings, openToVisitors: false },
        originLat: origin?.lat ?? null,
        originLon: origin?.lon ?? null,
        version: row.version + 1
      },
      { transaction }
    );
    await StandRow.bulkCreate(
      stands.map((stand) => ({ ...stand, bushId: bush.id })),
      { transaction }
    );
    await FeatureRow.bulkCreate(
      features.map((feature) => ({ ...feature, bushId: bush.id })),
      { transaction }
    );
    if (head.baseMap) {
      const { fit, pictureBase64 } = head.baseMap;
      await keepBaseMap(bush.id, Buffer.from(pictureBase64, 'base64'), fit, transaction);
    }
    const lines = trees.map((tree) => ({
      ...tree,
      id: renamed(tree.id),
      standId: tree.standId && renamed(tree.standId),
      stemOf: tree.stemOf && renamed(tree.stemOf)
    }));
    await storeLines(walk, lines, { bushId: bush.id, from: 0 }, transaction);
    let records = 0;
    let waiting: ArchivedRecord[] = [];
    const keep = async (atLeast: number) => {
      if (waiting.length < atLeast) return;
      const batch = group(waiting, (record) => record.authorId);
      records += waiting.length;
      waiting = [];
      for (const [id, own] of batch)
        await storeMany(
          own.map((record) => underIds(record, renamed)),
          { bushId: bush.id, authorId: authors.get(id)!, now },
          transaction
        );
    };
    await readPieces(
      source,
      new ArchiveReader(),
      (record) => waiting.push(record),
      () => keep(AT_ONCE)
    );
    await keep(1);
    const came = { archive: 'in', trees: trees.length, records };
    await noted({ bushId: bush.id, authorId: memberId, at: now }, 'archive', came, transaction);
    return { trees: trees.length, records, name };
  });
}

async function mustBeEmpty(bushId: string, transaction?: Transaction): Promise<void> {
  const holds = [TreeRecord, StandRow, FeatureRow, ...BUSH_RECORD_KINDS.map((kind) => tables().work[kind])];
  for (const model of holds as ModelStatic<Model>[])
    if (await model.findOne({ where: { bushId }, attributes: ['id'], transaction })) throw new Refused('notEmpty');
}

/** What an archive's authors are called behind their names: nothing shows that they wrote what it says they did. */
const BY_ARCHIVE = ' (archive)';
const LONGEST_NAME = 80;
const byArchive = (name: string) =>
  name.endsWith(BY_ARCHIVE) ? name : name.slice(0, LONGEST_NAME - BY_ARCHIVE.length) + BY_ARCHIVE;

/**
 * Whoever wrote in an archive, and as whom her records stand here: never as one of those who have an account, whatever the archive says
 * of her.
 */
async function authorsIn(
  { bush: { id: bushId }, own, now }: Required<Restoring>,
  { people }: ArchiveHead,
  writers: ReadonlySet<string>,
  transaction: Transaction
): Promise<ReadonlyMap<string, string>> {
  const users = await User.findAll({ where: { id: people.map(({ id }) => id) }, attributes: ['id'], transaction });
  const taken = new Set(users.map(({ id }) => id));
  const authors = new Map<string, string>();
  for (const { id, name } of people) {
    if (!writers.has(id)) continue;
    // A name for the records, and no account to sign in with.
    const former = taken.has(id) ? uuidFrom(`${bushId} ${id}`) : id;
    authors.set(id, former);
    const displayName = own ? name : byArchive(name);
    await User.create(
      { id: former, signInName: `archive:${former}`, displayName, passwordHash: '-', createdAt: now },
      { transaction }
    );
    await Membership.create({ userId: former, bushId, role: FORMER }, { transaction });
  }
  return authors;
}
