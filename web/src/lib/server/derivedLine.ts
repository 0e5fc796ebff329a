import { deriveTree, groundsOf, ownLine, type Tree, type WorkRecord } from '@baumkin/core/records';

/** What is kept does not hang on the day. */
const ANY_DAY = '2000-01-01';

/** A line as it is kept: what holds on whatever day, and what the rest is told from, both as JSON. */
export interface KeptTexts {
  readonly line: string;
  readonly grounds: string;
}

/** A line that was just derived, and of which tree it is. */
export interface DerivedLine extends KeptTexts {
  readonly id: string;
}

/** Derives the line of a tree, and what it is told from. @param records those that a line follows from */
export function derivedLine(tree: Tree, records: readonly WorkRecord[], season: number): DerivedLine {
  const state = deriveTree(records, { season, today: ANY_DAY });
  return { id: tree.id, line: JSON.stringify(ownLine(tree, state)), grounds: JSON.stringify(groundsOf(state, tree)) };
}
