import { Z_EIGHTY } from '../math/index.ts';
import { longRunStainedShare, growthBalance, type BalanceInput } from './balance.ts';
import { nextStep, type TapGuideline } from './guidelines.ts';

/** A tree on its way to the guideline's next step. */
export interface TimeToSize {
  /** years until it is there at its own growth, and the span in which that lies eight times in ten; null for never */
  readonly years: number;
  readonly earliest: number;
  readonly latest: number | null;
  /** the count that it then has */
  readonly taps: number;
  readonly atDbhMm: number;
}

/**
 * When a tree reaches the next step of a guideline, from its own growth.
 * @returns null at the top of the guideline
 */
export function timeToSize(
  tree: { readonly dbhMm: number; readonly ringMm: number; readonly ringSeMm: number },
  guideline: TapGuideline
): TimeToSize | null {
  const step = nextStep(guideline, tree.dbhMm);
  if (!step) return null;
  const missing = Math.max(0, step.diameterMm - tree.dbhMm);
  const at = (ringMm: number) => (ringMm > 0 ? missing / (2 * ringMm) : Infinity);
  const slow = at(tree.ringMm - Z_EIGHTY * tree.ringSeMm);
  return {
    years: at(tree.ringMm),
    earliest: at(tree.ringMm + Z_EIGHTY * tree.ringSeMm),
    latest: Number.isFinite(slow) ? slow : null,
    taps: step.taps,
    atDbhMm: step.diameterMm
  };
}

/**
 * What a tap a year costs a tree that is tapped before its size allows: the long-run share of its band that is stained, now
 * against what it would be at the size that the guideline asks for.
 */
export function costOfTooEarly(input: BalanceInput, atDbhMm: number): { now: number; then: number } {
  const share = (dbhMm: number) => longRunStainedShare(growthBalance({ ...input, dbhMm }), 1);
  return { now: share(input.dbhMm), then: share(atDbhMm) };
}
