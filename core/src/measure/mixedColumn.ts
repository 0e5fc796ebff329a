import { deviation } from 'd3-array';

import { mean } from '../math/index.ts';
import { MM_PER_INCH, type TrunkQuantity } from '../units/index.ts';
import { toDiameter } from './dbh.ts';
import type { ColumnCause } from './sizes.ts';

/** A size of a column, and with which others it was most likely written down. */
export interface SizeOfColumn {
  readonly quantity: TrunkQuantity;
  readonly valueMm: number;
  /** its day, its hand or its sheet: what goes wrong goes wrong for a whole lot */
  readonly lot: string;
}

/** Some sizes of a column that seem to be another quantity or unit than the others. Nothing is changed by finding them. */
export interface MixedColumn {
  /** what would explain it, the likeliest first */
  readonly causes: readonly ColumnCause[];
  /** which sizes, as indices into what was given */
  readonly which: readonly number[];
  /** the middle diameter of the others, and of these as they stand, mm */
  readonly othersMm: number;
  readonly theseMm: number;
}

/** By how much a wrong size is off, as a factor on the diameter that it seems to tell. */
const SEEMS: Readonly<Record<ColumnCause, number>> = {
  girthAsDiameter: Math.PI,
  diameterAsGirth: 1 / Math.PI,
  inchAsCm: 10 / MM_PER_INCH,
  cmAsInch: MM_PER_INCH / 10
};
const CAUSES: Readonly<Record<'diameter' | 'girth', readonly ColumnCause[]>> = {
  diameter: ['girthAsDiameter', 'inchAsCm', 'cmAsInch'],
  girth: ['diameterAsGirth', 'inchAsCm', 'cmAsInch']
};

/** Fewer sizes of one quantity are no column. */
const FEWEST = 20;
/** Fewer wrong ones are left to the guard of each tree. */
const FEWEST_WRONG = 3;
/** Two lots are told apart where this many standard deviations lie between them. Working assumption. */
const APART_SD = 2.2;
/** How much better two lots must explain a column than one, in the Bayesian information criterion. Working assumption. */
const BETTER_BY = 10;
/** A cause this much less likely than the best, in the logarithm, is no explanation any more. Working assumption. */
const CLOSE = 6;
/** The other quantity is written about twenty times as often as the other unit, in the logarithm. Working assumption. */
const OFTEN: Readonly<Record<ColumnCause, number>> = {
  girthAsDiameter: 3,
  diameterAsGirth: 3,
  inchAsCm: 0,
  cmAsInch: 0
};
/** Rounds of expectation maximisation; it stands still long before. */
const ROUNDS = 60;

/**
 * Finds the sizes of a column that are another quantity or unit than the rest: girths among diameters, inches among
 * centimetres. Sizes of a wood are about log-normal, so such a lot lies a known way off on a logarithmic scale. Two normal
 * distributions of one width, that far apart, are fitted by expectation maximisation, and held against one.
 * @returns null where one lot explains the column as well
 */
export function mixedColumn(sizes: readonly SizeOfColumn[]): MixedColumn | null {
  const [column] = (['diameter', 'girth'] as const)
    .map((quantity) => ({
      quantity,
      which: sizes.flatMap((size, i) => (size.quantity === quantity ? [i] : []))
    }))
    .sort((a, b) => b.which.length - a.which.length);
  if (!column || column.which.length < FEWEST) return null;
  const { quantity, which } = column;
  const logs = which.map((i) => Math.log(toDiameter(sizes[i]!.valueMm, quantity)));
  const lots = which.map((i) => sizes[i]!.lot);
  const fits = CAUSES[quantity]
    .map((cause) => {
      const fit = twoLots(logs, lots, Math.log(SEEMS[cause]));
      return { cause, fit, score: fit.logLik + OFTEN[cause] };
    })
    .sort((a, b) => b.score - a.score);
  const best = fits[0]!.fit;
  const wrong = best.chance.flatMap((p, i) => (p > 0.5 ? [i] : []));
  const bicGain = 2 * (best.logLik - oneLot(logs)) - Math.log(logs.length);
  const apart = Math.abs(Math.log(SEEMS[fits[0]!.cause])) / best.sd;
  if (bicGain < BETTER_BY || apart < APART_SD || wrong.length < FEWEST_WRONG || wrong.length > logs.length / 2)
    return null;
  const middle = (of: readonly number[]) => Math.exp(mean(of));
  return {
    causes: fits.filter(({ score }) => fits[0]!.score - score < CLOSE).map(({ cause }) => cause),
    which: wrong.map((i) => which[i]!),
    othersMm: middle(logs.filter((_, i) => best.chance[i]! <= 0.5)),
    theseMm: middle(wrong.map((i) => logs[i]!))
  };
}

const logNormal = (x: number, middle: number, width: number) =>
  -0.5 * ((x - middle) / width) ** 2 - Math.log(width * Math.sqrt(2 * Math.PI));

function oneLot(logs: readonly number[]): number {
  const [middle, width] = [mean(logs), Math.max(NARROWEST, deviation(logs) ?? 0)];
  return logs.reduce((sum, x) => sum + logNormal(x, middle, width), 0);
}

/** Trunks of a wood differ by at least this much, on a logarithmic scale. */
const NARROWEST = 0.05;

/** Two lots a known way apart. @returns for each size how likely it is of the second */
function twoLots(
  logs: readonly number[],
  lots: readonly string[],
  shift: number
): { readonly logLik: number; readonly sd: number; readonly chance: readonly number[] } {
  const sorted = [...logs].sort((a, b) => a - b);
  // The rest lies at one end, the wrong ones at the other: begin with a fifth.
  let middle = sorted[Math.floor((shift > 0 ? 0.4 : 0.6) * (sorted.length - 1))]!;
  let width = Math.max(NARROWEST, Math.abs(shift) / 3);
  let share = 0.2;
  let ofLot = new Map<string, number>();
  let chance: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    chance = logs.map((x, i) => {
      const p = ofLot.get(lots[i]!) ?? share;
      const own = Math.exp(logNormal(x, middle, width)) * (1 - p);
      const other = Math.exp(logNormal(x, middle + shift, width)) * p;
      return other / (own + other + Number.MIN_VALUE);
    });
    const right = logs.map((x, i) => x - chance[i]! * shift);
    middle = mean(right);
    const spread = logs.reduce(
      (sum, x, i) => sum + (1 - chance[i]!) * (x - middle) ** 2 + chance[i]! * (x - shift - middle) ** 2,
      0
    );
    width = Math.max(NARROWEST, Math.sqrt(spread / logs.length));
    share = Math.min(0.5, Math.max(1 / logs.length, mean(chance)));
    ofLot = sharesOf(lots, chance, share);
  }
  // Against one lot it is held without what single lots were allowed to have of their own.
  const told = logs.reduce(
    (sum, x) =>
      sum +
      Math.log(
        (1 - share) * Math.exp(logNormal(x, middle, width)) +
          share * Math.exp(logNormal(x, middle + shift, width)) +
          Number.MIN_VALUE
      ),
    0
  );
  return { logLik: told, sd: width, chance };
}

/** How much of each lot is of the second kind; a small lot leans on all of them together. */
function sharesOf(lots: readonly string[], chance: readonly number[], share: number): Map<string, number> {
  const sums = new Map<string, { wrong: number; all: number }>();
  lots.forEach((lot, i) => {
    const sum = sums.get(lot) ?? { wrong: 0, all: 0 };
    sum.wrong += chance[i]!;
    sum.all += 1;
    sums.set(lot, sum);
  });
  return new Map(
    [...sums].map(([lot, { wrong, all }]) => [lot, Math.min(0.98, Math.max(0.002, (wrong + share) / (all + 1)))])
  );
}

/** A size that was written as another quantity or unit, as it was meant. */
export function asMeant<T extends { readonly quantity: TrunkQuantity; readonly valueMm: number }>(
  size: T,
  cause: ColumnCause
): T {
  switch (cause) {
    case 'girthAsDiameter':
      return { ...size, quantity: 'girth' };
    case 'diameterAsGirth':
      return { ...size, quantity: 'diameter' };
    case 'inchAsCm':
      return { ...size, valueMm: (size.valueMm * MM_PER_INCH) / 10 };
    case 'cmAsInch':
      return { ...size, valueMm: (size.valueMm * 10) / MM_PER_INCH };
  }
}
