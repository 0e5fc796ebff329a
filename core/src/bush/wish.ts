import { syrupFrom, tapsForSyrup, type Span } from '../sap/index.ts';
import type { Stand, TreeRow } from '../records/index.ts';
import { firstStepOf } from './firstSteps.ts';
import { countable, suggestionFor, type Circumstances } from './suggestion.ts';

/** Whether the trees of a bush bear what is wished for. */
export interface WishHeld {
  /** taps that the wish takes */
  readonly wants: Span;
  /** taps that its trees bear: as decided, or as is suggested, and trees of which that cannot be said yet */
  readonly bears: number;
  readonly open: number;
  /** litres of syrup that those taps give */
  readonly gives: Span;
  readonly verdict: 'enough' | 'perhaps' | 'notWithoutHarm' | 'notKnown';
}

/**
 * Holds a wish for syrup against what trees bear without harm.
 * @param wishLitres of syrup a year, above 0 @param standOf a tree
 */
export function wishHeld(
  wishLitres: number,
  rows: readonly TreeRow[],
  standOf: (row: TreeRow) => Stand | null,
  at: Omit<Circumstances, 'stand'>
): WishHeld {
  const wants = tapsForSyrup(wishLitres);
  const tagged = rows.filter(({ tagged: hasTag, cut }) => hasTag !== false && !cut);
  const told = tagged.filter((row) => countable(row, standOf(row)));
  const bears = told.reduce(
    (sum, row) => sum + (row.decidedTaps ?? suggestionFor(row, { ...at, stand: standOf(row) }, null).taps),
    0
  );
  const open = tagged.filter((row) =>
    ['identify', 'measure'].includes(firstStepOf(row, { ...at, stand: standOf(row) }))
  ).length;
  return {
    wants,
    bears,
    open,
    gives: syrupFrom(bears),
    verdict: bears >= wants.usual ? 'enough' : bears >= wants.low ? 'perhaps' : open > 0 ? 'notKnown' : 'notWithoutHarm'
  };
}
