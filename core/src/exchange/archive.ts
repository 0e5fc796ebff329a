import { z } from 'zod';

import {
  bushRecordSchema,
  bushSettingsSchema,
  fromOlderRecord,
  fromOlderSettings,
  baseMapFitSchema,
  linesOf,
  pointersIn,
  recordSchema,
  siteFeatureSchema,
  standSchema,
  tagKey,
  underIds,
  type Tree
} from '../records/index.ts';
import { UnreadableFile } from './statement.ts';

const author = { authorId: z.uuid() };

/** Goes up when something in an archive is named anew; older ones are read as they are. */
const ARCHIVE_VERSION = 2;

/**
 * A whole bush in one file: everything that was ever written down, corrected and withdrawn records too. What holds today
 * follows from it. Read back into an empty bush it gives the same bush.
 */
export const archiveSchema = z.object({
  format: z.literal('baumkin-bush'),
  version: z.literal(ARCHIVE_VERSION),
  writtenAt: z.iso.datetime(),
  bush: z.object({
    name: z.string().min(1).max(80),
    settings: bushSettingsSchema,
    /** where on earth metres east and north are counted from (WGS 84); null where that was never said */
    origin: z.object({ lat: z.number().min(-90).max(90), lon: z.number().min(-180).max(180) }).nullable()
  }),
  /** who wrote the records */
  people: z.array(z.object({ id: z.uuid(), name: z.string().min(1).max(80) })).max(10_000),
  stands: z.array(standSchema).max(5000),
  features: z.array(siteFeatureSchema).max(5000),
  /** the picture under the map, with how it lies; null where none does */
  baseMap: z
    .object({ fit: baseMapFitSchema, pictureBase64: z.string().max(17_000_000) })
    .nullable()
    .default(null),
  /** ids of the trees in walking order */
  walk: z.array(z.uuid()).max(100_000),
  records: z.array(z.intersection(recordSchema, z.object(author))).max(2_000_000),
  bushRecords: z.array(z.intersection(bushRecordSchema, z.object(author))).max(200_000)
});

export type Archive = z.infer<typeof archiveSchema>;

/**
 * Reads an archive and holds it against itself: every record's tree must be on the walk, every author among the people,
 * no id may come twice, no tag hang on two trees.
 * @throws UnreadableFile with the first thing that is wrong
 */
export function readArchive(text: string): Archive {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    throw new UnreadableFile('This is not an archive: it cannot be read as JSON.');
  }
  if ((parsed as { format?: unknown } | null)?.format !== 'baumkin-bush')
    throw new UnreadableFile('This is not the archive of a bush.');
  const result = archiveSchema.safeParse(fromOlderArchive(parsed as Record<string, unknown>));
  if (!result.success) {
    const issue = result.error.issues[0]!;
    throw new UnreadableFile(`The archive is damaged at ${issue.path.join('.') || 'its top'}: ${issue.message}.`);
  }
  const archive = result.data;
  const wrong = contradiction(archive);
  if (wrong) throw new UnreadableFile(`The archive contradicts itself: ${wrong}`);
  return archive;
}

/** An archive of an earlier version under today's names. What is not one stays as it is, for the schema to refuse. */
function fromOlderArchive(archive: Record<string, unknown>): unknown {
  if (archive.version !== 1) return archive;
  const each = (list: unknown) => (Array.isArray(list) ? list.map(fromOlderRecord) : list);
  return {
    ...archive,
    version: ARCHIVE_VERSION,
    baseMap: archive.ground,
    bush: fromOlderBush(archive.bush),
    records: each(archive.records),
    bushRecords: each(archive.bushRecords)
  };
}

function fromOlderBush(bush: unknown): unknown {
  return bush !== null && typeof bush === 'object' && 'settings' in bush
    ? { ...bush, settings: fromOlderSettings(bush.settings) }
    : bush;
}

function contradiction({ walk, people, stands, features, records, bushRecords }: Archive): string | null {
  const trees = new Set(walk);
  if (trees.size < walk.length) return 'a tree is on the walk twice.';
  const known = new Set(people.map((person) => person.id));
  const ids = new Set<string>();
  for (const { id } of [...stands, ...features, ...records, ...bushRecords]) {
    if (ids.has(id)) return `the id ${id} comes twice.`;
    ids.add(id);
  }
  const corrected = new Set<string>();
  const standIds = new Set(stands.map((stand) => stand.id));
  for (const record of [...records, ...bushRecords]) {
    if ('treeId' in record && !trees.has(record.treeId))
      return `record ${record.id} tells of a tree that is not in it.`;
    if (!known.has(record.authorId)) return `record ${record.id} was written by nobody in it.`;
    for (const { to, id } of pointersIn(record))
      if (!(to === 'tree' ? trees : to === 'stand' ? standIds : ids).has(id))
        return `record ${record.id} names a ${to} that is not in it.`;
    if (record.correctsId === null) continue;
    if (!ids.has(record.correctsId)) return `record ${record.id} corrects one that is not in it.`;
    if (corrected.has(record.correctsId)) return `record ${record.correctsId} is corrected twice.`;
    corrected.add(record.correctsId);
  }
  const tags = new Set<string>();
  for (const { tag } of treesIn({ walk, records, stands })) {
    if (tags.has(tagKey(tag))) return `two trees have the tag ${tag}.`;
    tags.add(tagKey(tag));
  }
  return null;
}

/** The lines of the registry that an archive amounts to. */
export function treesIn({ walk, records, stands }: Pick<Archive, 'walk' | 'records' | 'stands'>): Tree[] {
  const known = new Set(stands.map(({ id }) => id));
  return linesOf(walk, records).map((line) =>
    line.standId === null || known.has(line.standId) ? line : { ...line, standId: null }
  );
}

/**
 * The same archive under other ids, for a server that has the bush already: whatever points at something still does.
 * @param renamed gives the new id of an old one, always the same. New ids are to sort as the old ones do: of two records
 * of one moment the one with the later id holds
 */
export function underOtherIds(archive: Archive, renamed: (id: string) => string): Archive {
  return {
    ...archive,
    stands: archive.stands.map((stand) => ({ ...stand, id: renamed(stand.id) })),
    features: archive.features.map((feature) => ({ ...feature, id: renamed(feature.id) })),
    walk: archive.walk.map(renamed),
    records: archive.records.map((record) => underIds(record, renamed)),
    bushRecords: archive.bushRecords.map((record) => underIds(record, renamed))
  };
}
