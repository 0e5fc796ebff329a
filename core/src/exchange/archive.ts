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
  type Tree,
  type WorkRecord
} from '../records/index.ts';
import { readJson } from './json.ts';
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
/** The lists of an archive that may be long, and what stands in them. */
export type ArchiveList = 'records' | 'bushRecords';
export type ArchivedRecord = Archive[ArchiveList][number];
/** All of an archive but its records. */
export type ArchiveHead = Omit<Archive, ArchiveList>;

const headSchema = archiveSchema.omit({ records: true, bushRecords: true });
const isList = (name: string): name is ArchiveList => name === 'records' || name === 'bushRecords';

/**
 * Reads an archive and holds it against itself.
 * @throws UnreadableFile with the first thing that is wrong
 */
export function readArchive(text: string): Archive {
  const parsed = readJson(text, 'This is not an archive: it cannot be read as JSON.');
  const reader = new ArchiveReader();
  const lists: Record<ArchiveList, ArchivedRecord[]> = { records: [], bushRecords: [] };
  for (const [name, value] of Object.entries(parsed ?? {})) {
    if (!isList(name) || !Array.isArray(value)) reader.field(name, value);
    else for (const record of value) lists[name].push(reader.record(name, record));
  }
  return { ...reader.end().head, ...lists } as Archive;
}

/** What an archive was found to be once all of it was read. */
export interface ReadArchive {
  readonly head: ArchiveHead;
  /** the lines of the registry that it amounts to */
  readonly trees: Tree[];
  /** who wrote its records */
  readonly writers: ReadonlySet<string>;
  /** every id of it */
  readonly ids: ReadonlySet<string>;
}

/**
 * Reads an archive piece by piece, however long it is, and holds it against itself: every record's tree must be on the walk,
 * every author among the people, no id may come twice, no tag hang on two trees. Of the records only their ids stay in memory.
 */
export class ArchiveReader {
  readonly #fields: Record<string, unknown> = {};
  readonly #many: Record<ArchiveList, number> = { records: 0, bushRecords: 0 };
  readonly #ids = new Set<string>();
  readonly #corrected = new Set<string>();
  /** what records name, each with the first that does */
  readonly #named = {
    tree: new Map<string, string>(),
    stand: new Map<string, string>(),
    record: new Map<string, string>()
  };
  readonly #corrects = new Map<string, string>();
  readonly #treesTold = new Map<string, string>();
  readonly #writers = new Map<string, string>();
  /** what lines of the registry follow from */
  readonly #registry: WorkRecord[] = [];

  /** Any of its fields but the two lists of records. */
  field(name: string, value: unknown): void {
    this.#fields[name] = value;
    if (name === 'format') this.#isArchive();
  }

  /**
   * The next record of a list. The version of an archive stands before them.
   * @throws UnreadableFile
   */
  record(list: ArchiveList, raw: unknown): ArchivedRecord {
    this.#isArchive();
    const result = archiveSchema.shape[list].element.safeParse(this.#fields.version === 1 ? fromOlderRecord(raw) : raw);
    const place = this.#many[list]++;
    if (!result.success) throw damaged([list, place], result.error);
    const record = result.data;
    const { id, authorId, correctsId } = record;
    if (this.#ids.has(id)) throw contradicts(`the id ${id} comes twice.`);
    this.#ids.add(id);
    first(this.#writers, authorId, id);
    if ('treeId' in record) first(this.#treesTold, record.treeId, id);
    for (const { to, id: named } of pointersIn(record))
      first(to === 'tree' || to === 'stand' ? this.#named[to] : this.#named.record, named, `${id} names a ${to}`);
    if (correctsId !== null) {
      if (this.#corrected.has(correctsId)) throw contradicts(`record ${correctsId} is corrected twice.`);
      this.#corrected.add(correctsId);
      first(this.#corrects, correctsId, id);
    }
    if (record.kind === 'entry' || record.kind === 'place') this.#registry.push(record);
    return record;
  }

  /** All was read. @throws UnreadableFile */
  end(): ReadArchive {
    this.#isArchive();
    const result = headSchema.safeParse(fromOlderHead(this.#fields));
    if (!result.success) throw damaged([], result.error);
    const head = result.data;
    const { walk, people, stands, features } = head;
    const trees = new Set(walk);
    if (trees.size < walk.length) throw contradicts('a tree is on the walk twice.');
    for (const { id } of [...stands, ...features]) {
      if (this.#ids.has(id)) throw contradicts(`the id ${id} comes twice.`);
      this.#ids.add(id);
    }
    const known = new Set(people.map(({ id }) => id));
    const standIds = new Set(stands.map(({ id }) => id));
    const missing = (of: ReadonlyMap<string, string>, among: ReadonlySet<string>) =>
      [...of].find(([id]) => !among.has(id))?.[1];
    const astray = missing(this.#treesTold, trees);
    if (astray !== undefined) throw contradicts(`record ${astray} tells of a tree that is not in it.`);
    const unsigned = missing(this.#writers, known);
    if (unsigned !== undefined) throw contradicts(`record ${unsigned} was written by nobody in it.`);
    const names =
      missing(this.#named.tree, trees) ??
      missing(this.#named.stand, standIds) ??
      missing(this.#named.record, this.#ids);
    if (names !== undefined) throw contradicts(`record ${names} that is not in it.`);
    const corrects = missing(this.#corrects, this.#ids);
    if (corrects !== undefined) throw contradicts(`record ${corrects} corrects one that is not in it.`);
    const lines = treesIn({ walk, stands, records: this.#registry });
    const tags = new Set<string>();
    for (const { tag } of lines) {
      if (tags.has(tagKey(tag))) throw contradicts(`two trees have the tag ${tag}.`);
      tags.add(tagKey(tag));
    }
    return { head, trees: lines, writers: new Set(this.#writers.keys()), ids: new Set([...this.#ids, ...walk]) };
  }

  #isArchive(): void {
    if (this.#fields.format !== 'baumkin-bush') throw new UnreadableFile('This is not the archive of a bush.');
  }
}

function first(of: Map<string, string>, id: string, says: string): void {
  if (!of.has(id)) of.set(id, says);
}

function damaged(at: readonly (string | number)[], error: z.ZodError): UnreadableFile {
  const issue = error.issues[0]!;
  const where = [...at, ...issue.path].join('.') || 'its top';
  return new UnreadableFile(`The archive is damaged at ${where}: ${issue.message}.`);
}

const contradicts = (what: string) => new UnreadableFile(`The archive contradicts itself: ${what}`);

/** An archive of an earlier version under today's names. What is not one stays as it is, for the schema to refuse. */
function fromOlderHead(fields: Record<string, unknown>): unknown {
  if (fields.version !== 1) return fields;
  return { ...fields, version: ARCHIVE_VERSION, baseMap: fields.ground, bush: fromOlderBush(fields.bush) };
}

function fromOlderBush(bush: unknown): unknown {
  return bush !== null && typeof bush === 'object' && 'settings' in bush
    ? { ...bush, settings: fromOlderSettings(bush.settings) }
    : bush;
}

/** The lines of the registry that an archive amounts to. */
export function treesIn({
  walk,
  records,
  stands
}: Pick<Archive, 'walk' | 'stands'> & { readonly records: readonly WorkRecord[] }): Tree[] {
  const known = new Set(stands.map(({ id }) => id));
  return linesOf(walk, records).map((line) =>
    line.standId === null || known.has(line.standId) ? line : { ...line, standId: null }
  );
}

/**
 * What an archive holds beside its records under other ids, for a server that has the bush already: whatever points at
 * something still does, with its records renamed by `underIds`.
 * @param renamed gives the new id of an old one, always the same. New ids are to sort as the old ones do: of two records
 * of one moment the one with the later id holds
 */
export function headUnderIds<H extends Pick<ArchiveHead, 'stands' | 'features' | 'walk'>>(
  head: H,
  renamed: (id: string) => string
): H {
  return {
    ...head,
    stands: head.stands.map((stand) => ({ ...stand, id: renamed(stand.id) })),
    features: head.features.map((feature) => ({ ...feature, id: renamed(feature.id) })),
    walk: head.walk.map(renamed)
  };
}
