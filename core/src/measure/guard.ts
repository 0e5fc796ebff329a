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

/** A question about a reading. Nothing is changed by asking. */
export interface ReadingQuestion {
  readonly cause: LikelyCause;
  /** the sentence for the steward, without figures that depend on the unit system */
  readonly because: string;
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

const SUSPECTS: readonly { cause: LikelyCause; factor: number; because: string }[] = [
  {
    cause: 'girthAsDiameter',
    factor: 1 / Math.PI,
    because: 'It is about three times the last reading: this looks like the girth, written down as diameter.'
  },
  {
    cause: 'diameterAsGirth',
    factor: Math.PI,
    because: 'It is about a third of the last reading: this looks like the diameter, written down as girth.'
  },
  {
    cause: 'inchAsCm',
    factor: MM_PER_INCH / 10,
    because: 'It is smaller than the last reading by about 2.5: this looks like inches, written down as centimetres.'
  },
  {
    cause: 'cmAsInch',
    factor: 10 / MM_PER_INCH,
    because: 'It is larger than the last reading by about 2.5: this looks like centimetres, written down as inches.'
  }
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

  for (const { cause, factor, because } of SUSPECTS) {
    const corrected = next.dbhMm * factor;
    if (explains(corrected, next, last)) return { cause, because, correctedDbhMm: corrected, neighbourTag: null };
  }
  const swapped = neighbours.find((n) => explains(next.dbhMm, next, n.last));
  if (swapped)
    return {
      cause: 'swappedTag',
      because: `It fits tree ${swapped.tag} beside it: were the tags mixed up?`,
      correctedDbhMm: null,
      neighbourTag: swapped.tag
    };
  return {
    cause: 'unknown',
    because:
      next.dbhMm < last.dbhMm
        ? 'The trunk would have shrunk by more than the tape can err. Measure again at the same height.'
        : 'No maple grows that fast. Measure again, or look at the tag.',
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
  const question = (cause: LikelyCause, because: string, correctedDbhMm: number | null): ReadingQuestion => ({
    cause,
    because,
    correctedDbhMm,
    neighbourTag: null
  });
  if (dbhMm > most)
    return question(
      'girthAsDiameter',
      'No maple is that thick: this looks like the girth, written down as diameter.',
      dbhMm / Math.PI
    );
  if (dbhMm < least) return question('unknown', 'That is thinner than a thumb. Look at the unit.', null);
  if (tapped && dbhMm < THINNEST_TAPPED_MM) {
    const [girth, inch] = [dbhMm * Math.PI, (dbhMm * MM_PER_INCH) / 10];
    const asInch = !sizes || Math.abs(standsOut(inch, sizes)) <= Math.abs(standsOut(girth, sizes));
    return asInch
      ? question('inchAsCm', 'Nobody taps so thin a tree: this looks like inches, written down as centimetres.', inch)
      : question(
          'diameterAsGirth',
          'Nobody taps so thin a tree: this looks like the diameter, written down as girth.',
          girth
        );
  }
  if (sizes && standsOut(dbhMm, sizes) > STANDS_OUT_SD && Math.abs(standsOut(dbhMm / Math.PI, sizes)) < 1.5)
    return question(
      'girthAsDiameter',
      'It would be far thicker than the other trees of this bush: this looks like the girth, written down as diameter.',
      dbhMm / Math.PI
    );
  return null;
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
