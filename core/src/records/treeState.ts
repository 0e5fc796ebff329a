import {
  bushRingPriors,
  diameterAt,
  estimateGrowth,
  fractionalYear,
  RING_PRIOR,
  siftReadings,
  sizeExpectation,
  toDiameter,
  type Company,
  type DatedDiameter,
  type GrowthEstimate,
  type ReadingQuestion,
  type RingPriors,
  type SizeExpectation
} from '../measure/index.ts';
import type { AsOf } from './kind.ts';
import type { Reading, Taphole } from './kinds/index.ts';
import { heldOf, kindLines, type HeldRecords, type KindLines, type WorkRecord } from './registry.ts';

/** What follows from a tree's records together, or from the day that is asked about. */
interface Derived {
  /** readings that the guard asks about and nobody has answered for; growth and diameter leave them aside */
  readonly questioned: ReadonlyMap<string, ReadingQuestion>;
  /** the last reading that is not questioned */
  readonly lastReading: Reading | null;
  readonly growth: GrowthEstimate;
  /** diameter to be expected on the asked day, mm; null before the first reading */
  readonly dbhMm: number | null;
  readonly holesThisSeason: readonly Taphole[];
  /** what each kind of record adds to the tree's line */
  readonly line: KindLines;
}
/** What a state tells as the line does. */
type AsInLine = Pick<KindLines, 'heightM' | 'crownRadiiM' | 'lastTappedSeason' | 'cut' | 'fallen' | 'tapBan'>;

/** A tree's present state: what holds of its records, and what follows from them. */
export type TreeState = Omit<HeldRecords, keyof AsInLine> & AsInLine & Derived;

/** What a tree is seen among. */
export interface Among {
  /** ring widths to expect in this bush */
  readonly priors?: RingPriors;
  /** sizes of the bush's trees, which a first reading is held against */
  readonly sizes?: SizeExpectation | null;
}

/**
 * What is known of a tree today, and how well.
 * @param records of one tree, in any order
 * @param at the season that is planned and the day that is asked about
 */
export function deriveTree(
  records: readonly WorkRecord[],
  at: AsOf,
  { priors = RING_PRIOR, sizes = null }: Among = {}
): TreeState {
  const { season, today } = at;
  const held = heldOf(records, season);
  const line = kindLines(held, at);
  const { heightM, crownRadiiM, lastTappedSeason, cut, fallen, tapBan } = line;
  const { trusted, questioned } = sift(held.readings, { sizes, tapped: held.tapholes.length > 0 });
  const dated = trusted.map(datedDiameter);
  const growth = estimateGrowth(dated, held.assessment?.crownClass ?? null, priors);
  return {
    ...held,
    questioned,
    lastReading: trusted.at(-1) ?? null,
    growth,
    dbhMm: diameterAt(dated, growth, fractionalYear(today)),
    holesThisSeason: held.tapholes.filter((hole) => hole.season === season),
    line,
    heightM,
    crownRadiiM,
    lastTappedSeason,
    cut,
    fallen,
    tapBan
  };
}

/**
 * The states of a bush's trees with each growth shrunk towards the bush's own trees and each first reading held against
 * their sizes, and those expectations themselves. Two passes: the trees first say what they grow and how thick they are,
 * then each is seen among the others.
 */
export function deriveBush(
  lives: readonly (readonly WorkRecord[])[],
  at: AsOf
): { states: TreeState[]; priors: RingPriors; sizes: SizeExpectation | null } {
  const first = lives.map((records) => deriveTree(records, at));
  const priors = bushRingPriors(
    first.flatMap(({ growth, assessment }) =>
      growth.observed ? [{ crownClass: assessment?.crownClass ?? null, ...growth.observed }] : []
    )
  );
  const sizes = sizeExpectation(first.flatMap(({ dbhMm }) => dbhMm ?? []));
  return { states: first.map((state) => seenAmongOthers(state, at.today, priors, sizes)), priors, sizes };
}

/** A state with its questions, its growth and the diameter that follows from them, worked out anew. */
function seenAmongOthers(
  state: TreeState,
  today: string,
  priors: RingPriors,
  sizes: SizeExpectation | null
): TreeState {
  const { trusted, questioned } = sift(state.readings, { sizes, tapped: state.tapholes.length > 0 });
  const dated = trusted.map(datedDiameter);
  const growth = estimateGrowth(dated, state.assessment?.crownClass ?? null, priors);
  return {
    ...state,
    questioned,
    lastReading: trusted.at(-1) ?? null,
    growth,
    dbhMm: diameterAt(dated, growth, fractionalYear(today))
  };
}

/** Parts readings into those to go by and those that the guard asks about. */
function sift(
  readings: readonly Reading[],
  company: Company
): { trusted: Reading[]; questioned: Map<string, ReadingQuestion> } {
  const questions = siftReadings(
    readings.map((reading) => ({ ...datedDiameter(reading), confirmed: reading.confirmed })),
    company
  );
  return {
    trusted: readings.filter((_, i) => questions[i] === null),
    questioned: new Map(readings.flatMap(({ id }, i) => (questions[i] ? [[id, questions[i]] as const] : [])))
  };
}

/** A reading as a diameter of its day, with its uncertainty. */
export function datedDiameter(reading: Reading): DatedDiameter {
  return {
    year: fractionalYear(reading.on),
    dbhMm: toDiameter(reading.valueMm, reading.quantity),
    method: reading.method
  };
}
