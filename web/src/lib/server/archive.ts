import { createHash } from 'node:crypto';
import { readArchive, treesIn, underOtherIds, type Archive } from '@baumkin/core/exchange';
import { BUSH_RECORD_KINDS } from '@baumkin/core/records';
import { UniqueConstraintError, type Model, type ModelStatic } from 'sequelize';

import { writeToBush } from './bushWrite.ts';
import { storeLines, walkOf } from './treeRegistry.ts';
import { featuresOf, peopleOf, standsOf, type BushAccess } from './bushes.ts';
import { BushChange, FeatureRow, Membership, StandRow, tables, TreeRecord, User } from './db/index.ts';
import { baseMapFitOf, baseMapOf, keepBaseMap } from './baseMap.ts';
import { bushRecordsOf, recordsByTree, storeMany } from './records.ts';
import { Refused } from './refusals.ts';

/** Everything that was ever written down in a bush. Records in the order in which they were written. */
export async function writeArchive(bush: BushAccess, now = new Date()): Promise<Archive> {
  const [people, stands, features, baseMap, fit, walk, byTree, bushRecords] = await Promise.all([
    peopleOf(bush.id),
    standsOf(bush.id),
    featuresOf(bush.id),
    baseMapOf(bush.id),
    baseMapFitOf(bush.id),
    walkOf(bush.id),
    recordsByTree(bush.id),
    bushRecordsOf(bush.id)
  ]);
  const inOrder = <T extends { recordedAt: string; id: string }>(records: T[]) =>
    records.sort((a, b) => a.recordedAt.localeCompare(b.recordedAt) || a.id.localeCompare(b.id));
  return {
    format: 'baumkin-bush',
    version: 2,
    writtenAt: now.toISOString(),
    bush: { name: bush.name, settings: bush.settings, origin: bush.origin },
    people: people.map(({ id, name }) => ({ id, name })),
    stands,
    features,
    baseMap: baseMap && fit && { fit, pictureBase64: baseMap.picture.toString('base64') },
    walk: walk.map((tree) => tree.id),
    records: inOrder([...byTree.values()].flat()) as Archive['records'],
    bushRecords: inOrder(bushRecords) as Archive['bushRecords']
  };
}

/**
 * Reads an archive back into an empty bush, all of it or nothing. Where this server knows the archive's ids already, as
 * when a bush is copied, everything comes in under other ids.
 * @throws UnreadableFile, Refused 'notEmpty', Refused 'noPicture'
 */
export async function restoreArchive(
  bush: BushAccess,
  memberId: string,
  text: string,
  now = new Date()
): Promise<{ trees: number; records: number }> {
  const archive = readArchive(text);
  try {
    return await restore(bush, memberId, archive, now);
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error;
    const place = new Map(idsIn(archive).map((id, i) => [id, i]));
    const renamed = (id: string) => uuidFrom(`${bush.id} ${id}`, place.get(id));
    return restore(bush, memberId, underOtherIds(archive, renamed), now);
  }
}

async function restore(bush: BushAccess, memberId: string, archive: Archive, now: Date) {
  return writeToBush(bush.id, async (write) => {
    const { transaction, bush: row } = write;
    write.beginsAnew();
    const holds = [TreeRecord, StandRow, FeatureRow, ...BUSH_RECORD_KINDS.map((kind) => tables().work[kind])];
    for (const model of holds as ModelStatic<Model>[])
      if (await model.findOne({ where: { bushId: bush.id }, attributes: ['id'], transaction }))
        throw new Refused('notEmpty');

    const members = await Membership.findAll({ where: { bushId: bush.id }, transaction });
    const taken = new Set(
      (await User.findAll({ where: { id: archive.people.map((p) => p.id) }, attributes: ['id'], transaction })).map(
        (user) => user.id
      )
    );
    const authors = new Map<string, string>();
    const writers = new Set([...archive.records, ...archive.bushRecords].map((record) => record.authorId));
    for (const { id, name } of archive.people) {
      if (!writers.has(id)) continue;
      if (members.some((member) => member.userId === id)) {
        authors.set(id, id);
        continue;
      }
      // Somebody who wrote here once and has no way in: a name for the records, and no account to sign in with.
      const own = taken.has(id) ? uuidFrom(`${bush.id} ${id}`) : id;
      authors.set(id, own);
      await User.create(
        { id: own, signInName: `archive:${own}`, displayName: name, passwordHash: '-', createdAt: now },
        { transaction }
      );
      await Membership.create({ userId: own, bushId: bush.id, role: 'former' }, { transaction });
    }
    const { settings, origin } = archive.bush;
    await row.update(
      { settings, originLat: origin?.lat ?? null, originLon: origin?.lon ?? null, version: row.version + 1 },
      { transaction }
    );
    await BushChange.create({ bushId: bush.id, authorId: memberId, at: now, settings }, { transaction });
    await StandRow.bulkCreate(
      archive.stands.map((stand) => ({ ...stand, bushId: bush.id })),
      { transaction }
    );
    await FeatureRow.bulkCreate(
      archive.features.map((feature) => ({ ...feature, bushId: bush.id })),
      { transaction }
    );
    if (archive.baseMap) {
      const { fit, pictureBase64 } = archive.baseMap;
      await keepBaseMap(bush.id, Buffer.from(pictureBase64, 'base64'), fit, transaction);
    }
    const trees = treesIn(archive);
    await storeLines(archive.walk, trees, { bushId: bush.id, from: 0 }, transaction);
    const records = [...archive.records, ...archive.bushRecords];
    for (const [id, authorId] of authors)
      await storeMany(
        records.filter((record) => record.authorId === id),
        { bushId: bush.id, authorId, now },
        transaction
      );
    return { trees: trees.length, records: records.length };
  });
}

/** Every id of an archive, in the order by which records of one moment are told apart. */
const idsIn = ({ stands, features, walk, records, bushRecords }: Archive): string[] =>
  [...walk, ...[...stands, ...features, ...records, ...bushRecords].map(({ id }) => id)].sort();

/**
 * A UUID of its own kind (RFC 9562, version 8) that is always the same for the same text.
 * @param place where it is to stand in the order of its fellows, below 2^32; by the text alone where none is given
 */
function uuidFrom(text: string, place?: number): string {
  const digest = createHash('sha256').update(text).digest('hex');
  const hex = (place?.toString(16).padStart(8, '0') ?? digest.slice(0, 8)) + digest.slice(8);
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
