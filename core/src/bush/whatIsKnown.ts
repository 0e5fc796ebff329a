import { knownMaple, otherSapOfTree, type TreeRow } from '../records/index.ts';
import { lookIsOld } from '../taps/index.ts';

/** What a book holds of its trees, in numbers of trees. */
export interface Known {
  readonly trees: number;
  /** species settled, maple or not */
  readonly settled: number;
  readonly measured: number;
  /** measured twice or cored, so that their growth is their own */
  readonly grown: number;
  readonly placed: number;
  /** of which a hole is known, or somebody's word on earlier tapping */
  readonly withPast: number;
  /** crowns that somebody looked at lately */
  readonly lookedAt: number;
  /** maples, and trees that may be: of these a count is decided */
  readonly maples: number;
  readonly decided: number;
}

/** What a book lacks, and how long it takes to learn it. */
export interface Lack {
  readonly what: 'settle' | 'measure' | 'past' | 'lookUp' | 'decide' | 'place';
  readonly trees: number;
  readonly hours: number;
}

/** Minutes that each takes for a tree, the way to it included. Working assumptions: one's own pace is soon known. */
const MINUTES: Readonly<Record<Lack['what'], number>> = {
  settle: 2.5,
  measure: 1.5,
  past: 1,
  lookUp: 1.5,
  decide: 0.2,
  place: 0.8
};

/**
 * What a book knows of its trees.
 * @param today ISO date: looks at crowns grow old
 */
export function knownOf(rows: readonly TreeRow[], today: string): Known {
  const many = (test: (row: TreeRow) => boolean) => rows.filter(test).length;
  const mayBeMaple = rows.filter((row) => knownMaple(row) !== false && otherSapOfTree(row) === null);
  return {
    trees: rows.length,
    settled: many((row) => knownMaple(row) !== null),
    measured: many((row) => row.dbhMm !== null),
    grown: many((row) => row.ownGrowth > 0),
    placed: many((row) => row.eastM !== null),
    withPast: many((row) => row.tapped || row.tappedBefore !== null),
    lookedAt: many((row) => row.lookedOn !== null && !lookIsOld(row.lookedOn, today)),
    maples: mayBeMaple.length,
    decided: mayBeMaple.filter((row) => row.decidedTaps !== null).length
  };
}

/**
 * What a book lacks, in the order in which one builds on the other: nobody measures what is no maple, and nobody counts what was
 * not measured. What is wanted of maples is not asked of trees that are none.
 */
export function lacksOf(rows: readonly TreeRow[], today: string): Lack[] {
  const open = rows.filter((row) => knownMaple(row) === null);
  const maples = rows.filter((row) => knownMaple(row) !== false && otherSapOfTree(row) === null);
  const wanting: readonly (readonly [Lack['what'], number])[] = [
    ['settle', open.length],
    ['measure', maples.filter((row) => row.dbhMm === null).length],
    ['past', maples.filter((row) => !row.tapped && row.tappedBefore === null).length],
    ['lookUp', maples.filter((row) => row.lookedOn === null || lookIsOld(row.lookedOn, today)).length],
    ['decide', maples.filter((row) => row.dbhMm !== null && row.decidedTaps === null).length],
    ['place', rows.filter((row) => row.eastM === null).length]
  ];
  return wanting.flatMap(([what, trees]) => (trees > 0 ? { what, trees, hours: (trees * MINUTES[what]) / 60 } : []));
}
