import { mean, sampleDeviation } from '../math/index.ts';

/** A hole as it was looked at in summer. */
export interface ClosingLook {
  /** of the bit, mm */
  readonly bitMm: number;
  /** width that is still open, mm; 0 where wood lies across it */
  readonly gapMm: number;
  /** summers that have gone over it, 1 or more */
  readonly summers: number;
}

/** How fast a tree closes its holes. */
export interface ClosingSpeed {
  /** mm of the width in a summer */
  readonly mmASummer: number;
  /** holes that tell it */
  readonly holes: number;
  /** all were closed when somebody looked: it is at least so fast */
  readonly atLeast: boolean;
}

/** How fast a tree closes its holes, from those that were seen still open; where all were closed, at least how fast. */
export function closingSpeed(looks: readonly ClosingLook[]): ClosingSpeed | null {
  const open = looks.filter(({ gapMm }) => gapMm > 0);
  const used = open.length > 0 ? open : looks;
  if (used.length === 0) return null;
  const speeds = used.map(({ bitMm, gapMm, summers }) => (bitMm - gapMm) / summers);
  const mmASummer = open.length > 0 ? mean(speeds) : Math.max(...speeds);
  return { mmASummer, holes: used.length, atLeast: open.length === 0 };
}

/** A tree whose growth is known by tape and whose holes were looked at. */
export interface GaugeTree {
  readonly ringMm: number;
  readonly mmASummer: number;
}

/** What closing says of growth in a bush; nothing before it has proved itself there. */
export type ClosingGauge =
  | { readonly usable: false; readonly why: 'tooFew' | 'notConfirmed'; readonly trees: number }
  | {
      readonly usable: true;
      readonly trees: number;
      /** how far it misses a tree that it never saw, mm of ring, 1 sd, and how far their mean misses it */
      readonly missesMm: number;
      readonly meanMissesMm: number;
      /** the ring that a speed tells, mm */
      readonly ring: (mmASummer: number) => number;
    };

/** Fewer trees with both prove nothing. Working assumption. */
export const GAUGE_TREES = 30;
/** It has to miss a tree that it never saw by so much less than the mean of all does. Working assumption. */
const GAUGE_GAINS = 0.85;

/**
 * What the speed of closing tells of the growth, learned from trees of the bush of which both are known: a straight line, and held
 * against each tree in turn that it did not see. It says nothing until there are enough of them and it misses them by clearly less than
 * their mean does.
 */
export function closingGauge(trees: readonly GaugeTree[]): ClosingGauge {
  const many = trees.length;
  if (many < GAUGE_TREES) return { usable: false, why: 'tooFew', trees: many };
  const [speed, ring] = [mean(trees.map((tree) => tree.mmASummer)), mean(trees.map((tree) => tree.ringMm))];
  const across = trees.reduce((sum, tree) => sum + (tree.mmASummer - speed) ** 2, 0);
  if (across === 0) return { usable: false, why: 'notConfirmed', trees: many };
  const slope = trees.reduce((sum, tree) => sum + (tree.mmASummer - speed) * (tree.ringMm - ring), 0) / across;
  const told = (mmASummer: number) => ring + slope * (mmASummer - speed);
  // Leaving one out of a straight line leaves its own miss, made larger by how much the line leans on it (Allen 1974).
  const missed = trees.map((tree) => {
    const leans = 1 / many + (tree.mmASummer - speed) ** 2 / across;
    return (tree.ringMm - told(tree.mmASummer)) / (1 - leans);
  });
  const missesMm = Math.sqrt(mean(missed.map((each) => each ** 2)));
  const meanMissesMm = sampleDeviation(trees.map((tree) => tree.ringMm)) * Math.sqrt(1 + 1 / many);
  return slope > 0 && missesMm < GAUGE_GAINS * meanMissesMm
    ? { usable: true, trees: many, missesMm, meanMissesMm, ring: told }
    : { usable: false, why: 'notConfirmed', trees: many };
}

/** A ring and what is unknown of it, 1 sd, mm. */
export interface Ring {
  readonly ringMm: number;
  readonly seMm: number;
}

/** What closing and tape say of a tree together: closing counts at the most as much as the tape does, and so never outvotes it. */
export function ringByBoth(tape: Ring | null, closing: Ring): Ring {
  if (!tape) return closing;
  const [ofTape, ofClosing] = [1 / tape.seMm ** 2, Math.min(1 / closing.seMm ** 2, 1 / tape.seMm ** 2)];
  return {
    ringMm: (ofTape * tape.ringMm + ofClosing * closing.ringMm) / (ofTape + ofClosing),
    seMm: Math.sqrt(1 / (ofTape + ofClosing))
  };
}

/** From so many standard deviations on a tree that closes slower than it grew is told of: one in twenty for nothing. */
const FALLING_FROM = 1.645;

/** Does a tree close its holes clearly slower than its growth by tape lets expect? Its vigour falls. */
export const vigourFalls = (tape: Ring, closing: Ring): boolean =>
  tape.ringMm - closing.ringMm > FALLING_FROM * Math.hypot(tape.seMm, closing.seMm);
