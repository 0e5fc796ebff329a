import type { DatedDiameter } from '../measure/index.ts';
import type { Condition } from '../taps/index.ts';
import { effectiveRecords, LINE_KEYS, type KindLines, type WorkRecord } from './registry.ts';
import { fill, shapeOf } from './shape.ts';
import { treeSchema, type Tree } from './site.ts';
import { datedDiameter, type TreeState } from './treeState.ts';

/** What of a line follows from several kinds of record, or from the bush's other trees. */
interface JointLine {
  readonly dbhMm: number | null;
  readonly ringMm: number;
  readonly ringSeMm: number;
  /** share of the growth that rests on the tree's own readings, 0..1 */
  readonly ownGrowth: number;
  readonly lastReadingOn: string | null;
  readonly lastReading: DatedDiameter | null;
  /** readings that wait for an answer to the guard's question */
  readonly questions: number;
  /** somebody looked at crown, holes or trunk after the count was decided */
  readonly lookedSinceDecided: boolean;
  /** when one that is watched or braced, stands girdled or lies alive is to be looked at again */
  readonly reviewOn: string | null;
}

/** One line per tree: what lists, the bead string and the map want to know. */
export type TreeRow = Tree & KindLines & JointLine;

/** What a tree's entry and place say of it, for its line in the registry. */
export function registryLine({
  entry,
  place
}: Pick<TreeState, 'entry' | 'place'>): Omit<Tree, 'id' | 'walkOrder'> | null {
  if (!entry) return null;
  return {
    tag: entry.tag,
    tagged: entry.tagged,
    standId: entry.standId,
    stemOf: entry.stemOf,
    eastM: place?.eastM ?? null,
    northM: place?.northM ?? null,
    positionQuality: place?.quality ?? null,
    positionAccuracyM: place?.accuracyM ?? null
  };
}

/** Was a tree taken out of the registry? Not where nothing is known of how it came in. */
export function isGone(records: readonly WorkRecord[]): boolean {
  const entries = records.filter((r) => r.kind === 'entry');
  return entries.length > 0 && effectiveRecords(entries).length === 0;
}

/** A tree's line in the registry from its records; null where it is not in it. */
export function treeLine(id: string, walkOrder: number, records: readonly WorkRecord[]): Tree | null {
  const last = <K extends 'entry' | 'place'>(kind: K) =>
    (effectiveRecords(records.filter((r) => r.kind === kind)).at(-1) as Extract<WorkRecord, { kind: K }> | undefined) ??
    null;
  const line = registryLine({ entry: last('entry'), place: last('place') });
  return line && { id, walkOrder, ...line };
}

/**
 * The lines of the registry from the records of all trees.
 * @param walk ids of the trees in walking order; those that were taken out of the registry may be among them
 */
export function linesOf(walk: readonly string[], records: readonly WorkRecord[]): Tree[] {
  const byTree = new Map<string, WorkRecord[]>(walk.map((id) => [id, []]));
  for (const record of records) byTree.get(record.treeId)?.push(record);
  return walk.flatMap((id, i) => treeLine(id, i, byTree.get(id)!) ?? []);
}

/** The line of a tree from its state. Its entries and places go before what the line said of them. */
export function treeRow(tree: Tree, state: TreeState): TreeRow {
  const row = emptyRow();
  fill(row, tree);
  fill(row, registryLine(state));
  fill(row, state.line);
  const joint: JointLine = {
    dbhMm: state.dbhMm,
    ringMm: state.growth.ringMm,
    ringSeMm: state.growth.ringSeMm,
    ownGrowth: state.growth.weightOfReadings,
    lastReadingOn: state.lastReading?.on ?? null,
    lastReading: state.lastReading ? datedDiameter(state.lastReading) : null,
    questions: state.questioned.size,
    lookedSinceDecided: (state.assessment?.recordedAt ?? '') > (state.decision?.recordedAt ?? '9'),
    reviewOn: state.fallen?.reviewOn ?? state.mark?.reviewOn ?? null
  };
  fill(row, joint);
  return row as unknown as TreeRow;
}

const JOINT_KEYS: readonly (keyof JointLine)[] = [
  'dbhMm',
  'ringMm',
  'ringSeMm',
  'ownGrowth',
  'lastReadingOn',
  'lastReading',
  'questions',
  'lookedSinceDecided',
  'reviewOn'
];
const emptyRow = shapeOf([...Object.keys(treeSchema.shape), ...LINE_KEYS, ...JOINT_KEYS]);

/** What was last seen of a tree's condition; null where nobody looked. */
export function conditionOf(
  row: Pick<
    TreeRow,
    'lookedOn' | 'earlierLooks' | 'diebackPct' | 'oldestOpenHoleYears' | 'stressed' | 'peeledPct' | 'peelFresh'
  >
): Condition | null {
  return row.lookedOn === null ? null : { ...row, on: row.lookedOn, earlier: row.earlierLooks };
}
