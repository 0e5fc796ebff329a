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
  type CrownClass,
  type DatedDiameter,
  type GrowthEstimate,
  type ReadingQuestion,
  type RingPriors,
  type SizeExpectation
} from '../measure/index.ts';
import type { AsOf } from './kind.ts';
import type { Reading, Taphole } from './kinds/index.ts';
import { HELD_NAMES, heldOf, kindLines, type HeldRecords, type KindLines, type WorkRecord } from './registry.ts';
import { fill, shapeOf } from './shape.ts';

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

/**
 * What is known of a tree today, and how well.
 * @param records of one tree, in any order
 * @param at the season that is planned and the day that is asked about
 * @param among ring widths and sizes to expect in its bush; those of maples at large where nothing is said
 */
export function deriveTree(
  records: readonly WorkRecord[],
  at: AsOf,
  { priors = RING_PRIOR, sizes = null }: Partial<Expectations> = {}
): TreeState {
  const { season, today } = at;
  const held = heldOf(records, season);
  const line = kindLines(held, at);
  const { heightM, crownRadiiM, lastTappedSeason, cut, fallen, tapBan } = line;
  const { trusted, questioned } = sift(held.readings, { sizes, tapped: held.tapholes.length > 0 });
  const dated = trusted.map(datedDiameter);
  const growth = estimateGrowth(dated, held.assessment?.crownClass ?? null, priors);
  const state = emptyState();
  fill(state, held);
  fill(state, {
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
  } satisfies Derived & AsInLine);
  return state as unknown as TreeState;
}

const emptyState = shapeOf([
  ...HELD_NAMES,
  ...(['questioned', 'lastReading', 'growth', 'dbhMm', 'holesThisSeason', 'line'] satisfies (keyof Derived)[]),
  ...(['heightM', 'crownRadiiM', 'lastTappedSeason', 'cut', 'fallen', 'tapBan'] satisfies (keyof AsInLine)[])
]);

/** What a tree says of its bush by itself: its growth and its size, which the others are seen among. */
export interface Says {
  readonly crownClass: CrownClass | null;
  /** ring width from its own readings, and its standard error, mm */
  readonly observed: GrowthEstimate['observed'];
  /** mm */
  readonly dbhMm: number | null;
}

/** What to expect of a tree of this bush. */
export interface Expectations {
  readonly priors: RingPriors;
  readonly sizes: SizeExpectation | null;
}

/** What a tree says of its bush. @param state of one that is not yet seen among the others */
export const saysOf = ({ assessment, growth, dbhMm }: TreeState): Says => ({
  crownClass: assessment?.crownClass ?? null,
  observed: growth.observed,
  dbhMm
});

/** Digits that expectations are told to: one more reading in a large bush is not to move the lines of all its trees. */
const EXPECTED_DIGITS = 3;
const told = (value: number) => Number(value.toPrecision(EXPECTED_DIGITS));

/** What to expect of a bush's trees, from what each says by itself. */
export function expectationsOf(says: readonly Says[]): Expectations {
  const priors = bushRingPriors(
    says.flatMap(({ crownClass, observed }) => (observed ? [{ crownClass, ...observed }] : []))
  );
  const sizes = sizeExpectation(says.flatMap(({ dbhMm }) => dbhMm ?? []));
  const classes = Object.entries(priors) as [CrownClass, RingPriors[CrownClass]][];
  return {
    priors: Object.fromEntries(
      classes.map(([crownClass, { meanMm, sdMm }]) => [crownClass, { meanMm: told(meanMm), sdMm }])
    ) as RingPriors,
    sizes: sizes && { medianMm: told(sizes.medianMm), logSd: told(sizes.logSd) }
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
): { readonly states: TreeState[] } & Expectations {
  const first = lives.map((records) => deriveTree(records, at));
  const expects = expectationsOf(first.map(saysOf));
  return { states: first.map((state) => seenAmong(state, at.today, expects)), ...expects };
}

/** A state with its questions, its growth and the diameter that follows from them, worked out anew. */
export function seenAmong(state: TreeState, today: string, { priors, sizes }: Expectations): TreeState {
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
