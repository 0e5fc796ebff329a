/** Crown vigour by dieback, classes of the North American Maple Project (from memory). */
export type VigourClass = 'healthy' | 'light' | 'moderate' | 'severe' | 'dead';

/** What was seen when looking up, and at the old holes. */
export interface Condition {
  /** dead fine branches in the live crown, percent; 100 is a dead tree */
  readonly diebackPct: number;
  /** age of the oldest hole that is still open, years; null when all are closed or none was looked at */
  readonly oldestOpenHoleYears: number | null;
  /** defoliation, drought, ice or root damage last year */
  readonly stressed: boolean;
}

/** Defects of the trunk: what a hole keeps away from, and what weakens the tree. */
export const DEFECT_KINDS = ['seam', 'canker', 'hollow', 'split', 'wound', 'borers', 'swelling'] as const;
export type DefectKind = (typeof DEFECT_KINDS)[number];

/** What may fall or break: for trained people to look at before anyone works under the tree. */
export const HAZARD_KINDS = ['deadTop', 'brokenTop', 'hangingLimb', 'hollowButt', 'splitFork', 'lean'] as const;
export type HazardKind = (typeof HAZARD_KINDS)[number];

/** Who lives there. */
export const WILDLIFE_KINDS = ['cavity', 'nest', 'den', 'woodpeckers'] as const;
export type WildlifeKind = (typeof WILDLIFE_KINDS)[number];

export function vigourClass(diebackPct: number): VigourClass {
  if (diebackPct >= 100) return 'dead';
  if (diebackPct > 50) return 'severe';
  if (diebackPct > 25) return 'moderate';
  if (diebackPct > 10) return 'light';
  return 'healthy';
}

/** A cap on the count, with its reason. */
export interface ConditionCap {
  readonly taps: number;
  readonly reason: string;
}

/** No cap: the tree's condition allows what its size allows. */
const NO_CAP = 4;

/**
 * What each thing that was seen does to the count. The caps are common practice turned into numbers (working assumption):
 * light dieback one tap, more dieback none; holes still open after three years, or last year's stress, a rest.
 * @param condition null when nobody looked up yet
 */
export function conditionEffects(condition: Condition | null): ConditionCap[] {
  if (!condition) return [{ taps: NO_CAP, reason: 'Nobody has looked up at this crown yet.' }];
  const { diebackPct, oldestOpenHoleYears: open, stressed } = condition;
  const dieback = `${diebackPct} % of the crown has died back`;
  const crown: Record<VigourClass, ConditionCap> = {
    dead: { taps: 0, reason: 'The tree is dead.' },
    severe: { taps: 0, reason: `${dieback}: it needs its sap.` },
    moderate: { taps: 0, reason: `${dieback}: it needs its sap.` },
    light: { taps: 1, reason: `${dieback}: one tap at the most.` },
    healthy: { taps: NO_CAP, reason: 'Its crown is full enough for what its size allows.' }
  };
  const effects = [crown[vigourClass(diebackPct)]];
  if (open !== null)
    effects.push(
      open >= 3
        ? { taps: 0, reason: `A hole is still open after ${open} years: the tree is weak.` }
        : {
            taps: NO_CAP,
            reason: `A hole is open after ${open} ${open === 1 ? 'year' : 'years'}: that is no longer than usual.`
          }
    );
  if (stressed) effects.push({ taps: 0, reason: 'It was stressed last year: let it recover.' });
  return effects;
}

/** What the tree's condition allows in all: the least of its effects. */
export function conditionCap(condition: Condition | null): ConditionCap {
  const least = conditionEffects(condition).reduce((a, b) => (b.taps < a.taps ? b : a));
  return condition && least.taps === NO_CAP
    ? { taps: NO_CAP, reason: 'Nothing in its condition asks for fewer taps.' }
    : least;
}
