import { UserFacingError } from '../errors/index.ts';

/**
 * What is wrong with a cell or row, by what would mend it. A `word` goes with those that are mended word by word; of the others
 * all of one column are mended together.
 */
export const FAULTS = [
  /** a word of the species column that means nothing, or perhaps something */
  'speciesWord',
  /** day and month may stand either way round */
  'dateOrder',
  /** a size without a day */
  'undated',
  /** a size of the same tree and day stands in a line above, another one */
  'twoSizes',
  /** a tag that the bush does not have, in a file about trees that it has; the `word` is the tag */
  'strangeTag',
  /** the book has another species; the `word` says which against which */
  'otherSpecies',
  /** it looks like another quantity or unit than the rest of its column */
  'otherLot',
  /** anything else: it is mended in the file */
  'cell'
] as const;
export type Fault = (typeof FAULTS)[number];

/** A cell that cannot be taken as it stands. */
export class BadCell extends UserFacingError<'badCell'> {
  constructor(
    readonly column: string | null,
    reason: string,
    readonly fault: Fault = 'cell',
    readonly word: string | null = null
  ) {
    super('badCell', reason);
  }
}

/** A row that is not taken as it stands, with the reason; its cells are kept so that nothing is lost. */
export interface BadRow {
  readonly line: number;
  readonly column: string | null;
  readonly reason: string;
  readonly cells: readonly string[];
  readonly fault: Fault;
  readonly word: string | null;
}

/** Rows that have the same fault, and are mended together. */
export interface FaultGroup {
  readonly fault: Fault;
  readonly column: string | null;
  readonly word: string | null;
  readonly rows: readonly BadRow[];
}

/** Faults by kind, column and word: those that an answer mends first, the most frequent first. */
export function groupFaults(bad: readonly BadRow[]): FaultGroup[] {
  const groups = new Map<string, BadRow[]>();
  for (const row of bad) {
    const key = JSON.stringify([row.fault, row.column, row.word]);
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  return [...groups.values()]
    .map((rows): FaultGroup => ({ fault: rows[0]!.fault, column: rows[0]!.column, word: rows[0]!.word, rows }))
    .sort((a, b) => FAULTS.indexOf(a.fault) - FAULTS.indexOf(b.fault) || b.rows.length - a.rows.length);
}

/** How many lines of a file are not taken: one of them may have several faults. */
export const linesLeftOut = (bad: readonly BadRow[]): number => new Set(bad.map(({ line }) => line)).size;
