import {
  toDiameter,
  type CountedRings,
  type DatedDiameter,
  type GrowthEstimate,
  type ReadingQuestion
} from '../measure/index.ts';
import { dated, expectationsOf, tell, type Expectations, type Grounds, type LineReading } from './grounds.ts';
import type { AsOf } from './kind.ts';
import type { Reading, RingCount, Taphole } from './kinds/index.ts';
import { HELD_NAMES, heldOf, kindLines, type HeldRecords, type KindLines, type WorkRecord } from './registry.ts';
import { tappingYear } from './season.ts';
import { fill, shapeOf } from './shape.ts';
import type { Tree } from './site.ts';

/** What follows from a tree's records together, or from the day that is asked about. */
interface Derived {
  /** readings that the guard asks about and nobody has answered for; growth and diameter leave them aside */
  readonly questioned: ReadonlyMap<string, ReadingQuestion>;
  /** the last reading that is not questioned */
  readonly lastReading: Reading | null;
  readonly growth: GrowthEstimate;
  /** diameter to be expected on the asked day, mm; null before the first reading */
  readonly dbhMm: number | null;
  /** diameter to be expected when the season's holes are drilled, mm: whatever is planned for them hangs on no day */
  readonly tappingDbhMm: number | null;
  readonly holesThisSeason: readonly Taphole[];
  /** what each kind of record adds to the tree's line */
  readonly line: KindLines;
}
/** What a state tells as the line does. */
type AsInLine = Pick<KindLines, 'heightM' | 'crownRadiiM' | 'lastTappedSeason' | 'cut' | 'fallen' | 'tapBan'>;

/** A tree's present state: what holds of its records, and what follows from them. */
export type TreeState = Omit<HeldRecords, keyof AsInLine> & AsInLine & Derived;

/**
 * What is known of a tree today, and how well.
 * @param records of one tree, in any order
 * @param at the season that is planned and the day that is asked about
 * @param expects ring widths and sizes to expect in its bush; those of maples at large where nothing is said
 */
export function deriveTree(records: readonly WorkRecord[], at: AsOf, expects?: Partial<Expectations>): TreeState {
  const held = heldOf(records, at.season);
  const line = kindLines(held, at);
  const { heightM, crownRadiiM, lastTappedSeason, cut, fallen } = line;
  const state = emptyState();
  fill(state, held);
  fill(state, {
    holesThisSeason: held.tapholes.filter((hole) => hole.season === at.season),
    line,
    heightM,
    crownRadiiM,
    lastTappedSeason,
    cut,
    fallen
  } satisfies Partial<Derived & AsInLine>);
  fill(state, told(state as unknown as HeldRecords & { readonly line: KindLines }, at, expects));
  return state as unknown as TreeState;
}

/**
 * What a tree's growth, its size and the questions about it follow from.
 * @param tree as the registry has it, where its entries are not among the records
 */
export function groundsOf(
  {
    line: { crownClass, species, lastTappedSeason, drilled, tapBan },
    entry,
    readings,
    ringCounts
  }: Pick<TreeState, 'line' | 'entry' | 'readings' | 'ringCounts'>,
  tree: Pick<Tree, 'standId'> | null = null
): Grounds {
  return {
    crownClass,
    standId: entry ? entry.standId : (tree?.standId ?? null),
    species,
    tapped: lastTappedSeason !== null || drilled > 0,
    readings: readings.map(lineReading),
    counted: ringCounts.flatMap(lineRings),
    tapBan
  };
}

const lineReading = ({ on, valueMm, quantity, method, confirmed }: Reading): LineReading => ({
  on,
  dbhMm: toDiameter(valueMm, quantity),
  method,
  confirmed
});

function lineRings({ source, last5Mm, last10Mm, last20Mm }: RingCount): CountedRings[] {
  return (last5Mm ?? last10Mm ?? last20Mm) ? [{ source, last5Mm, last10Mm, last20Mm }] : [];
}

/** A reading as a diameter of its day, with the way in which it was measured. */
export const datedDiameter = (reading: Reading): DatedDiameter => dated(lineReading(reading));

type Told = Pick<Derived, 'questioned' | 'lastReading' | 'growth' | 'dbhMm' | 'tappingDbhMm'> &
  Pick<AsInLine, 'tapBan'>;

function told(
  state: Pick<TreeState, 'line' | 'entry' | 'readings' | 'ringCounts'>,
  { season, today }: AsOf,
  expects: Partial<Expectations> | undefined
): Told {
  const { questions, last, growth, dbhMm, dbhIn, tapBan } = tell(groundsOf(state), today, expects);
  return {
    questioned: new Map(state.readings.flatMap(({ id }, i) => (questions[i] ? [[id, questions[i]] as const] : []))),
    lastReading: state.readings[last] ?? null,
    growth,
    dbhMm,
    tappingDbhMm: dbhIn(tappingYear(season)),
    tapBan
  };
}

const emptyState = shapeOf([
  ...HELD_NAMES,
  ...([
    'questioned',
    'lastReading',
    'growth',
    'dbhMm',
    'tappingDbhMm',
    'holesThisSeason',
    'line'
  ] satisfies (keyof Derived)[]),
  ...(['heightM', 'crownRadiiM', 'lastTappedSeason', 'cut', 'fallen', 'tapBan'] satisfies (keyof AsInLine)[])
]);

/**
 * The states of a bush's trees with each growth shrunk towards the bush's own trees and each first reading held against
 * their sizes, and those expectations themselves. Two passes: the trees first say what they grow and how thick they are,
 * then each is seen among the others.
 */
export function deriveBush(
  lives: readonly (readonly WorkRecord[])[],
  at: AsOf
): { readonly states: TreeState[] } & Expectations {
  const first = lives.map((records) => deriveTree(records, at));
  const expects = expectationsOf(
    first.map((state) => groundsOf(state)),
    at.today
  );
  return { states: first.map((state) => ({ ...state, ...told(state, at, expects) })), ...expects };
}
