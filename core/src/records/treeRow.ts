import type { DatedDiameter } from '../measure/index.ts';
import type { Condition } from '../taps/index.ts';
import { dated, tell, type Expectations, type Grounds, type LineReading, type Told } from './grounds.ts';
import { effectiveRecords, LINE_KEYS, type KindLines, type WorkRecord } from './registry.ts';
import { fill, shapeOf } from './shape.ts';
import { treeSchema, type Tree } from './site.ts';
import { groundsOf, type TreeState } from './treeState.ts';

/** What of a line follows from several kinds of record. */
interface JointLine {
  /** somebody looked at crown, holes or trunk after the count was decided */
  readonly lookedSinceDecided: boolean;
  /** when one that is watched or braced, stands girdled or lies alive is to be looked at again */
  readonly reviewOn: string | null;
  /** does its mark stand on its trunk? */
  readonly markPainted: boolean;
}

/** What of a line hangs on the day, and on the bush's other trees. */
interface ToldLine {
  readonly dbhMm: number | null;
  readonly ringMm: number;
  readonly ringSeMm: number;
  /** share of the growth that rests on the tree's own readings, 0..1 */
  readonly ownGrowth: number;
  readonly lastReadingOn: string | null;
  readonly lastReading: DatedDiameter | null;
  /** readings that wait for an answer to the guard's question */
  readonly questions: number;
}

/** What of a line holds on whatever day. */
export type OwnLine = Omit<Tree & KindLines, keyof Grounds> & JointLine;

/** A line as it is kept: what hangs on the day is still to be told from its grounds. */
export type KeptLine = OwnLine & Grounds;

/** One line per tree, for a day: what lists, the bead string and the map want to know. */
export type TreeRow = KeptLine & ToldLine;

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

/** The line of a tree from its state, for the day that the state is told for. Its entries and places go before what the line said of them. */
export function treeRow(tree: Tree, state: TreeState): TreeRow {
  const { growth, lastReading, dbhMm, questioned, tapBan } = state;
  const grounds = groundsOf(state, tree);
  const row = emptyRow();
  fill(row, ownLine(tree, state));
  fill(row, { ...grounds, tapBan });
  const last = lastReading && grounds.readings[state.readings.indexOf(lastReading)]!;
  fill(row, toldLine({ growth, dbhMm }, last, questioned.size));
  return row as unknown as TreeRow;
}

/** What of a tree's line holds on whatever day. */
export function ownLine(tree: Tree, state: TreeState): OwnLine {
  const joint: JointLine = {
    lookedSinceDecided: (state.assessment?.recordedAt ?? '') > (state.decision?.recordedAt ?? '9'),
    reviewOn: state.fallen?.reviewOn ?? state.mark?.reviewOn ?? null,
    markPainted: state.painted !== null && state.painted.markId === state.mark?.id
  };
  const line = emptyOwn();
  for (const part of [tree, registryLine(state), state.line, joint])
    for (const key of OWN_KEYS) if (part && key in part) line[key] = (part as unknown as Record<string, unknown>)[key];
  return line as unknown as OwnLine;
}

/**
 * The rest of a line: what its grounds come to on a day, among the bush's other trees.
 * @param today ISO date
 */
export function tellLine(
  grounds: Grounds,
  today: string,
  expects: Partial<Expectations>
): ToldLine & Pick<Grounds, 'tapBan'> {
  const told = tell(grounds, today, expects);
  const questions = told.questions.reduce((sum, question) => sum + (question ? 1 : 0), 0);
  const line = toldLine(told, grounds.readings[told.last] ?? null, questions);
  return Object.assign(line, { tapBan: told.tapBan });
}

/**
 * A line for a day, among trees of which something is expected. Of a line that was told before, a word on tapping that had
 * run out by then is not in it any more: days are asked for in their order.
 * @param today ISO date
 */
export function onDay(line: KeptLine, today: string, expects: Partial<Expectations>): TreeRow {
  const row = emptyRow();
  fill(row, line);
  fill(row, tellLine(line, today, expects));
  return row as unknown as TreeRow;
}

const toldLine = (
  { growth, dbhMm }: Pick<Told, 'growth' | 'dbhMm'>,
  last: LineReading | null,
  questions: number
): ToldLine => ({
  dbhMm,
  ringMm: growth.ringMm,
  ringSeMm: growth.ringSeMm,
  ownGrowth: growth.weightOfReadings,
  lastReadingOn: last?.on ?? null,
  lastReading: last && dated(last),
  questions
});

/** What a tree's registry and records say that stands in its grounds. */
const IN_GROUNDS = ['crownClass', 'standId', 'species', 'tapBan'] satisfies (keyof Grounds)[];
const OWN_KEYS = [
  ...[...Object.keys(treeSchema.shape), ...LINE_KEYS].filter((key) => !(IN_GROUNDS as string[]).includes(key)),
  ...(['lookedSinceDecided', 'reviewOn', 'markPainted'] satisfies (keyof JointLine)[])
];
const emptyOwn = shapeOf(OWN_KEYS);
const emptyRow = shapeOf([
  ...OWN_KEYS,
  ...([...IN_GROUNDS, 'tapped', 'readings', 'counted'] satisfies (keyof Grounds)[]),
  ...([
    'dbhMm',
    'ringMm',
    'ringSeMm',
    'ownGrowth',
    'lastReadingOn',
    'lastReading',
    'questions'
  ] satisfies (keyof ToldLine)[])
]);

/** What was last seen of a tree's condition; null where nobody looked. */
export function conditionOf(
  row: Pick<
    TreeRow,
    | 'lookedOn'
    | 'earlierLooks'
    | 'diebackPct'
    | 'oldestOpenHoleYears'
    | 'stressed'
    | 'peeledPct'
    | 'peelFresh'
    | 'defects'
    | 'hazards'
    | 'hollow'
  >
): Condition | null {
  const { lookedOn, hollow, defects } = row;
  const on = lookedOn ?? hollow?.on;
  if (on === undefined) return null;
  const met = hollow && !defects.includes('hollow') ? (['hollow'] as const) : [];
  return { ...row, on, earlier: row.earlierLooks, defects: [...defects, ...met] };
}
