import { toLocalMetres, type LatLon } from '../geometry/index.ts';
import { type ColumnQuestion, type MixedColumn, type SizeExpectation } from '../measure/index.ts';
import {
  deriveTree,
  effectiveRecords,
  registryLine,
  standSchema,
  tagKey,
  type BushSettings,
  type Stand,
  type Tree,
  type WorkRecord
} from '../records/index.ts';
import { POSITION_SD_M } from '../stand/index.ts';
import type { BadRow } from './faults.ts';
import { FileQuestions } from './fileQuestions.ts';
import { envelopeOf, newDetermination, newHoles, newReading, newRemarks } from './newRecords.ts';
import type { ImportTold } from './told.ts';
import type { StatedPosition, StatedStand, Statement, StatementFile } from './statement.ts';

/** A tree that the bush has already, with everything recorded of it. */
export interface KnownTree {
  readonly tree: Tree;
  readonly records: readonly WorkRecord[];
}

export interface ImportOptions {
  readonly today: string;
  /** the moment of the import, ISO */
  readonly now: string;
  readonly settings: BushSettings;
  /** null while the bush has no place on earth: the first position in degrees becomes its origin */
  readonly origin: LatLon | null;
  readonly stands: readonly Stand[];
  /** the tags of all its trees */
  readonly tags: readonly string[];
  /** how thick the bush's trees are; null where too few are measured */
  readonly sizes: SizeExpectation | null;
  /** may the file bring trees that the bush does not have? null: they are asked about where most of its trees are known */
  readonly newTrees: boolean | null;
  readonly told?: ImportTold;
  readonly makeId: () => string;
}

/** What a file would change, before anything is changed. */
export interface ImportPlan {
  readonly origin: LatLon | null;
  /** stands to be made, or given another outline */
  readonly stands: readonly Stand[];
  /** new trees at the end of the walk, in the order of the file */
  readonly trees: readonly Tree[];
  /** all that is written down: entries and places of new trees, and what is new of known ones */
  readonly records: readonly WorkRecord[];
  readonly counts: {
    readonly newTrees: number;
    /** trees that the bush has and that the file says something new of */
    readonly grown: number;
    /** trees that the bush has and that the file says nothing new of */
    readonly unchanged: number;
    readonly readings: number;
    readonly holes: number;
    readonly determinations: number;
    readonly places: number;
    readonly remarks: number;
  };
  readonly bad: readonly BadRow[];
  /** a whole column that seems to be another quantity or unit than its heading says */
  readonly question: ColumnQuestion | null;
  /** some sizes of a column that seem to be another quantity or unit than the others */
  readonly mixed: MixedColumn | null;
  /** what tags that the bush does not have most likely mean */
  readonly likelyTags: ReadonlyMap<string, string>;
}

/** Places nearer each other than this are the same place, metres. */
const SAME_PLACE_M = 0.05;

/** The tags that a file names or means, as they are told apart: of these trees a plan needs all that is known. */
export const namedIn = (file: StatementFile, { tags = {} }: Pick<ImportTold, 'tags'> = {}): ReadonlySet<string> =>
  new Set([...[...file.statements, ...file.waiting].map(({ tag }) => tagKey(tag)), ...Object.values(tags).map(tagKey)]);

/**
 * Holds a file against a bush: what is new becomes records, what the bush has already is recognised and left alone, what
 * contradicts it is named. Nothing is stored here.
 * @param known trees of the bush; those that the file does not name may be left out
 */
export function planImport(file: StatementFile, known: readonly KnownTree[], options: ImportOptions): ImportPlan {
  const byTag = new Map(known.map((k) => [tagKey(k.tree.tag), k]));
  const origin = options.origin ?? originOf(file);
  const bad = [...file.bad];
  const stands = planStands(file, options, origin, bad);
  const standId = (name: string | null) =>
    name === null ? null : (stands.all.find((s) => sameName(s.name, name))?.id ?? null);

  const records: WorkRecord[] = [];
  const trees: Tree[] = [];
  const fresh = new Map<string, string>();
  const counts = {
    newTrees: 0,
    grown: 0,
    unchanged: 0,
    readings: 0,
    holes: 0,
    determinations: 0,
    places: 0,
    remarks: 0
  };
  const touched = new Map<string, boolean>();
  const leaveOut = ({ line, cells }: Statement, column: string, reason: string) =>
    bad.push({ line, column, reason, cells, fault: 'cell', word: null });
  const questions = new FileQuestions(file, byTag, options);
  const ask = (statement: Statement): boolean => {
    const asked = questions.of(statement);
    for (const { column, message, fault, word } of asked)
      bad.push({ line: statement.line, column, reason: message, cells: statement.cells, fault, word });
    return asked.length > 0;
  };
  for (const statement of file.waiting) ask(statement);

  for (const written of file.statements) {
    if (ask(written)) continue;
    const statement = questions.meant(written);
    const key = tagKey(statement.tag);
    const there = byTag.get(key);
    let treeId = there?.tree.id ?? fresh.get(key);
    const before = records.length;
    if (statement.position && origin && tooFar(inMetres(statement.position, origin))) {
      leaveOut(statement, 'position', FAR);
      continue;
    }
    if (treeId === undefined) {
      if (options.newTrees === false) {
        leaveOut(statement, 'tag', `no tree of this bush has the tag "${statement.tag}".`);
        continue;
      }
      treeId = options.makeId();
      fresh.set(key, treeId);
      const envelope = envelopeOf(treeId, options);
      const own: WorkRecord[] = [
        {
          ...envelope(options.today),
          kind: 'entry',
          tag: statement.tag,
          tagged: true,
          standId: standId(statement.stand),
          stemOf: null,
          afterId: null,
          note: ''
        }
      ];
      const place = placeOf(statement, treeId, origin, options);
      if (place) own.push(place);
      records.push(...own);
      counts.newTrees += 1;
      trees.push({
        id: treeId,
        walkOrder: trees.length,
        ...registryLine(deriveTree(own, { season: 0, today: options.today }))!
      });
    } else if (there) {
      const place = placeOf(statement, treeId, origin, options);
      if (place?.kind === 'place' && movesTree(there.tree, place)) {
        records.push(place);
        counts.places += 1;
      }
    }
    // What was withdrawn or corrected is not there any more: a file may bring it back.
    const has = effectiveRecords(there?.records ?? []);
    const determined = questions.bookHolds(statement, there) ? [] : newDetermination(statement, treeId, has, options);
    records.push(...determined);
    counts.determinations += determined.length;
    const reading = newReading(statement, treeId, has, options);
    if (reading === 'contradicts')
      leaveOut(statement, 'measured_on', 'the bush has another reading of that day. Correct it under Measure.');
    else if (reading) {
      records.push(reading);
      counts.readings += 1;
    }
    for (const hole of newHoles(statement, treeId, has, options)) {
      records.push(hole);
      counts.holes += 1;
    }
    const remarks = newRemarks(statement, treeId, has, options);
    records.push(...remarks);
    counts.remarks += remarks.length;
    if (there) touched.set(key, (touched.get(key) ?? false) || records.length > before);
  }
  for (const grown of touched.values()) counts[grown ? 'grown' : 'unchanged'] += 1;
  return {
    origin,
    stands: stands.changed,
    trees,
    records,
    counts,
    bad: bad.sort((a, b) => a.line - b.line),
    question: questions.column,
    mixed: questions.mixed,
    likelyTags: questions.likelyTags
  };
}

const sameName = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

function originOf(file: StatementFile): LatLon | null {
  for (const { position } of file.statements)
    if (position && 'lat' in position) return { lat: position.lat, lon: position.lon };
  const corner = file.stands[0]?.outline[0];
  return corner ? { lon: corner[0], lat: corner[1] } : null;
}

/** Farther from the bush's origin than this nothing of it lies, metres: the schemas refuse it. */
const FARTHEST_M = 100_000;
const FAR =
  'lies more than 100 km from the bush’s origin. Are latitude and longitude in each other’s place, or is it another bush?';
const tooFar = ({ eastM, northM }: { eastM: number; northM: number }) =>
  !(Math.abs(eastM) <= FARTHEST_M && Math.abs(northM) <= FARTHEST_M);

function planStands(
  file: StatementFile,
  { stands, makeId, newTrees }: ImportOptions,
  origin: LatLon | null,
  bad: BadRow[]
): { all: readonly Stand[]; changed: readonly Stand[] } {
  const all = [...stands];
  const changed: Stand[] = [];
  for (const stated of file.stands) {
    const there = all.findIndex((stand) => sameName(stand.name, stated.name));
    const leaveOut = (reason: string) =>
      bad.push({ line: stated.line, column: null, reason, cells: [`stand ${stated.name}`], fault: 'cell', word: null });
    if (stated.outline.some(([lon, lat]) => tooFar(toLocalMetres(origin!, { lat, lon })))) {
      leaveOut(FAR);
      continue;
    }
    const read = standOf(stated, there < 0 ? null : all[there]!, makeId, origin!);
    if (!read.success) {
      leaveOut(`is a stand that cannot be kept: ${read.error.issues[0]!.message}.`);
      continue;
    }
    const stand = read.data;
    if (there >= 0 && JSON.stringify(all[there]) === JSON.stringify(stand)) continue;
    if (there < 0) all.push(stand);
    else all[there] = stand;
    changed.push(stand);
  }
  const named = newTrees !== false ? file.statements.flatMap(({ stand }) => stand ?? []) : [];
  for (const name of named) {
    if (all.some((stand) => sameName(stand.name, name))) continue;
    const stand = standSchema.parse({
      id: makeId(),
      name: name.trim().slice(0, 80),
      purpose: 'syrup',
      areaHa: null
    });
    all.push(stand);
    changed.push(stand);
  }
  return { all, changed };
}

function standOf(
  { name, purpose, wetness, outline }: StatedStand,
  before: Stand | null,
  makeId: () => string,
  origin: LatLon
) {
  const points = outline.map(([lon, lat]): [number, number] => {
    const { eastM, northM } = toLocalMetres(origin, { lat, lon });
    return [roundTo(eastM), roundTo(northM)];
  });
  return standSchema.safeParse({
    ...before,
    id: before?.id ?? makeId(),
    name: name.trim().slice(0, 80),
    purpose,
    areaHa: null,
    wetness,
    outline: points
  });
}

const roundTo = (metres: number) => Number(metres.toFixed(2));

function placeOf(
  { position }: Statement,
  treeId: string,
  origin: LatLon | null,
  options: ImportOptions
): WorkRecord | null {
  if (!position) return null;
  const { eastM, northM } = inMetres(position, origin!);
  return {
    ...envelopeOf(treeId, options)(options.today),
    kind: 'place',
    eastM: roundTo(eastM),
    northM: roundTo(northM),
    quality: position.quality,
    accuracyM: null,
    asTaken: 'from a file'
  };
}

function inMetres(position: StatedPosition, origin: LatLon) {
  return 'lat' in position ? toLocalMetres(origin, position) : position;
}

/** Does a place from a file say better, or as well but otherwise, where a tree stands? */
function movesTree(tree: Tree, place: Extract<WorkRecord, { kind: 'place' }>): boolean {
  if (tree.eastM === null || tree.northM === null) return true;
  const sd = tree.positionAccuracyM ?? POSITION_SD_M[tree.positionQuality ?? 'phone'];
  if (POSITION_SD_M[place.quality] > sd) return false;
  return Math.hypot(place.eastM - tree.eastM, place.northM - tree.northM) > SAME_PLACE_M;
}
