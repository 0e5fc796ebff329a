import { MM_PER_INCH } from '../units/index.ts';
import { METHOD_SD_MM } from './method.ts';
import type { DatedDiameter } from './growth.ts';
import { standsOut, type SizeExpectation } from './sizes.ts';

/** Yearly growth of diameter that needs no question, mm. Working assumption. */
export const PLAUSIBLE_GROWTH_MM: readonly [number, number] = [0, 12];
/** Joint standard errors outside that range before a reading is questioned. */
export const QUESTION_AT_SE = 2.5;
/** Tapped or tagged trunks lie in this range of diameter, mm. A first reading outside it is questioned. */
export const PLAUSIBLE_DBH_MM: readonly [number, number] = [20, 1500];

export type LikelyCause = 'girthAsDiameter' | 'diameterAsGirth' | 'inchAsCm' | 'cmAsInch' | 'swappedTag' | 'unknown';

/**
 * What does not fit about a reading: against the tree's other readings, by itself (no maple is so thick, no tree so thin),
 * against what it is used for, against the bush's trees, against time, or against later readings that agree.
 */
export type Misfit =
  | 'ownReadings'
  | 'neighbour'
  | 'shrunk'
  | 'tooFast'
  | 'tooThick'
  | 'tooThin'
  | 'tappedSoThin'
  | 'farThicker'
  | 'laterAgree';

/** A question about a reading. Nothing is changed by asking. */
export interface ReadingQuestion {
  readonly cause: LikelyCause;
  /** what does not fit */
  readonly seen: Misfit;
  /** diameter after the one-tap correction, if the cause suggests one */
  readonly correctedDbhMm: number | null;
  /** tag of the neighbour whose last value fits, for a swapped tag */
  readonly neighbourTag: string | null;
}

/** A neighbour in walking order, for the swapped-tag check. */
export interface NeighbourReading {
  readonly tag: string;
  readonly last: DatedDiameter;
}

/** What a first reading is held against. */
export interface Company {
  /** the bush's other trees */
  readonly sizes?: SizeExpectation | null;
  /** it has been tapped: it cannot be a sapling */
  readonly tapped?: boolean;
}

const SUSPECTS: readonly { readonly cause: LikelyCause; readonly factor: number }[] = [
  { cause: 'girthAsDiameter', factor: 1 / Math.PI },
  { cause: 'diameterAsGirth', factor: Math.PI },
  { cause: 'inchAsCm', factor: MM_PER_INCH / 10 },
  { cause: 'cmAsInch', factor: 10 / MM_PER_INCH }
];

/**
 * Questions a new reading against the tree's last one. Never changes a value.
 * Growth is questioned when it lies more than 2.5 joint standard errors outside 0 to 12 mm of diameter a year.
 * A first reading is held against the bush's other trees and against what the tree is used for.
 * @param neighbours trees before and after in walking order, whose last value may fit better
 * @returns the question, or null when the reading may pass
 */
export function questionReading(
  next: DatedDiameter,
  last: DatedDiameter | null,
  neighbours: readonly NeighbourReading[] = [],
  company: Company = {}
): ReadingQuestion | null {
  if (!last) return questionFirst(next, company);
  if (explains(next.dbhMm, next, last)) return null;

  for (const { cause, factor } of SUSPECTS) {
    const corrected = next.dbhMm * factor;
    if (explains(corrected, next, last))
      return { cause, seen: 'ownReadings', correctedDbhMm: corrected, neighbourTag: null };
  }
  const swapped = neighbours.find((n) => explains(next.dbhMm, next, n.last));
  if (swapped)
    return {
      cause: 'swappedTag',
      seen: 'neighbour',
      correctedDbhMm: null,
      neighbourTag: swapped.tag
    };
  return {
    cause: 'unknown',
    seen: next.dbhMm < last.dbhMm ? 'shrunk' : 'tooFast',
    correctedDbhMm: null,
    neighbourTag: null
  };
}

/** Thinner trees are not tapped by any school. Common practice. */
const THINNEST_TAPPED_MM = 150;
/** A first reading this many standard deviations thicker than the bush's trees is questioned, if the girth explains it. */
const STANDS_OUT_SD = 2.5;

function questionFirst({ dbhMm }: DatedDiameter, { sizes, tapped }: Company): ReadingQuestion | null {
  const [least, most] = PLAUSIBLE_DBH_MM;
  const question = (cause: LikelyCause, seen: Misfit, correctedDbhMm: number | null): ReadingQuestion => ({
    cause,
    seen,
    correctedDbhMm,
    neighbourTag: null
  });
  if (dbhMm > most) return question('girthAsDiameter', 'tooThick', dbhMm / Math.PI);
  if (dbhMm < least) return question('unknown', 'tooThin', null);
  if (tapped && dbhMm < THINNEST_TAPPED_MM) {
    const [girth, inch] = [dbhMm * Math.PI, (dbhMm * MM_PER_INCH) / 10];
    const asInch = !sizes || Math.abs(standsOut(inch, sizes)) <= Math.abs(standsOut(girth, sizes));
    return question(asInch ? 'inchAsCm' : 'diameterAsGirth', 'tappedSoThin', asInch ? inch : girth);
  }
  if (sizes && standsOut(dbhMm, sizes) > STANDS_OUT_SD && Math.abs(standsOut(dbhMm / Math.PI, sizes)) < 1.5)
    return question('girthAsDiameter', 'farThicker', dbhMm / Math.PI);
  return null;
}

/**
 * Questions an earlier reading against later ones that agree with each other. Never changes a value.
 * @param later the first of those that agree
 */
function questionEarlier(reading: DatedDiameter, later: DatedDiameter): ReadingQuestion {
  for (const { cause, factor } of SUSPECTS) {
    const correctedDbhMm = reading.dbhMm * factor;
    if (explains(later.dbhMm, later, { ...reading, dbhMm: correctedDbhMm }))
      return { cause, seen: 'ownReadings', correctedDbhMm, neighbourTag: null };
  }
  return {
    cause: 'unknown',
    seen: 'laterAgree',
    correctedDbhMm: null,
    neighbourTag: null
  };
}

/** A reading with whether somebody stands by it. */
export interface SiftedReading extends DatedDiameter {
  readonly confirmed: boolean;
}

/** One confirmed reading weighs more than any number of others. */
const CONFIRMED_WEIGHT = 1000;

/**
 * Parts the readings of a tree into those to go by and those to be asked about: the most of them that agree with each other,
 * each with the one before it, are gone by; the odd ones out are questioned, whichever came first. Of two sets as large the
 * one that begins earlier is gone by.
 * @param readings in the order of time
 * @returns a question for each reading, null for those to go by
 */
export function siftReadings(readings: readonly SiftedReading[], company: Company = {}): (ReadingQuestion | null)[] {
  const first = readings.map((reading) => (reading.confirmed ? null : questionFirst(reading, company)));
  // The heaviest chain that ends at each reading, and the reading before it in that chain.
  const weight: number[] = [];
  const before: number[] = [];
  readings.forEach((reading, i) => {
    const own = reading.confirmed ? CONFIRMED_WEIGHT : 1;
    let [best, from] = [first[i] === null ? own : -Infinity, -1];
    for (let j = 0; j < i; j++)
      if (weight[j]! + own > best && (reading.confirmed || plausibleAfter(reading, readings[j]!)))
        [best, from] = [weight[j]! + own, j];
    weight.push(best);
    before.push(from);
  });
  const trusted = new Set<number>();
  let at = weight.reduce((best, w, i) => (w > (weight[best] ?? -Infinity) ? i : best), -1);
  for (; at >= 0; at = before[at]!) trusted.add(at);
  return readings.map((reading, i) => {
    if (trusted.has(i) || reading.confirmed) return null;
    const earlier = [...trusted].filter((j) => j < i).sort((a, b) => b - a)[0];
    if (earlier !== undefined) {
      const question = questionReading(reading, readings[earlier]!, [], company);
      if (question) return question;
    }
    const later = [...trusted].filter((j) => j > i).sort((a, b) => a - b)[0];
    return later === undefined ? first[i]! : questionEarlier(reading, readings[later]!);
  });
}

/** Could a reading be one of the trunk that an earlier reading was of? */
export function plausibleAfter(next: DatedDiameter, last: DatedDiameter): boolean {
  return explains(next.dbhMm, next, last);
}

/** Could `dbhMm`, read when `next` was, be the same trunk as `last`? */
function explains(dbhMm: number, next: DatedDiameter, last: DatedDiameter): boolean {
  const years = Math.max(0, next.year - last.year);
  const allowance = QUESTION_AT_SE * Math.hypot(METHOD_SD_MM[next.method], METHOD_SD_MM[last.method]);
  const grown = dbhMm - last.dbhMm;
  return grown >= PLAUSIBLE_GROWTH_MM[0] * years - allowance && grown <= PLAUSIBLE_GROWTH_MM[1] * years + allowance;
}
